DROP TABLE "ladder" CASCADE;--> statement-breakpoint
ALTER TABLE "field" ADD COLUMN "mesh" text;