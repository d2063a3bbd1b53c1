ALTER TABLE "finding" ADD COLUMN "cause_key" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "finding" ADD COLUMN "quantity_key" text;--> statement-breakpoint
ALTER TABLE "finding" ADD COLUMN "stage" text;