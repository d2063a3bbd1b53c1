ALTER TABLE "case" ADD COLUMN "level" text;--> statement-breakpoint
ALTER TABLE "case" ADD COLUMN "tags" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "programme" ADD COLUMN "purpose" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "programme" ADD COLUMN "people" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "programme" ADD COLUMN "limits" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "programme" ADD COLUMN "decision" text DEFAULT 'both-ways' NOT NULL;--> statement-breakpoint
ALTER TABLE "programme" ADD COLUMN "stakes" jsonb;--> statement-breakpoint
ALTER TABLE "programme" ADD COLUMN "deleted_at" timestamp with time zone;