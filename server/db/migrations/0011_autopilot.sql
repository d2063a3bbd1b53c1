CREATE TABLE "pilot" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"case_id" uuid NOT NULL,
	"quantity_key" text NOT NULL,
	"target" double precision NOT NULL,
	"most_cells" integer NOT NULL,
	"longest_s" double precision NOT NULL,
	"setup_hash" text NOT NULL,
	"state" text DEFAULT 'under way' NOT NULL,
	"reason" text,
	"steps" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"moves" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "pilot" ADD CONSTRAINT "pilot_case_id_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "pilot_case" ON "pilot" USING btree ("case_id");