ALTER TABLE "finding" ADD COLUMN "severity" text DEFAULT 'major' NOT NULL;--> statement-breakpoint
ALTER TABLE "finding" ADD COLUMN "owner" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "finding" ADD COLUMN "test" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "finding" ADD COLUMN "cured_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "programme" ADD COLUMN "rules" jsonb DEFAULT '[]'::jsonb NOT NULL;