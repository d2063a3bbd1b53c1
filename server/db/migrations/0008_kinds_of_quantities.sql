ALTER TABLE "quantity" ADD COLUMN "kind" text DEFAULT 'plain' NOT NULL;--> statement-breakpoint
-- Until now rules read these words off the name; what they found is kept as what was stated.
UPDATE "quantity" SET "kind" = 'cross-force' WHERE "name" ~* '\m(lift|(side|cross) force)\M';--> statement-breakpoint
UPDATE "quantity" SET "kind" = 'efficiency' WHERE "kind" = 'plain' AND "name" ~* '\m(efficiency|effectiveness)\M';
