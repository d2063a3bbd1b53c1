CREATE TABLE "board_row" (
	"case_id" uuid PRIMARY KEY NOT NULL,
	"stamp" text NOT NULL,
	"row" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "board_row" ADD CONSTRAINT "board_row_case_id_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case"("id") ON DELETE no action ON UPDATE no action;