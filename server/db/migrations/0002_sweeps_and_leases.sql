CREATE TABLE "sweep" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"case_id" uuid NOT NULL,
	"axes" jsonb NOT NULL,
	"label" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "run" ADD COLUMN "sweep_id" uuid;--> statement-breakpoint
ALTER TABLE "run" ADD COLUMN "priority" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "run" ADD COLUMN "leased_by" text;--> statement-breakpoint
ALTER TABLE "run" ADD COLUMN "lease_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "run" ADD COLUMN "attempt" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "run" ADD COLUMN "checkpoint" text;--> statement-breakpoint
ALTER TABLE "sweep" ADD CONSTRAINT "sweep_case_id_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "sweep_case" ON "sweep" USING btree ("case_id");--> statement-breakpoint
ALTER TABLE "run" ADD CONSTRAINT "run_sweep_id_sweep_id_fk" FOREIGN KEY ("sweep_id") REFERENCES "public"."sweep"("id") ON DELETE no action ON UPDATE no action;