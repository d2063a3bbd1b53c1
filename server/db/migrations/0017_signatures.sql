ALTER TABLE "report" ADD COLUMN "sign_offs" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "report" ADD COLUMN "withdrawn" jsonb;