CREATE TABLE "event" (
	"sequence" integer PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"says" text NOT NULL,
	"method" text NOT NULL,
	"path" text NOT NULL,
	"case_id" uuid,
	"by" text,
	"input_hash" text NOT NULL,
	"before" text NOT NULL,
	"hash" text NOT NULL
);
--> statement-breakpoint
CREATE INDEX "event_case" ON "event" USING btree ("case_id");--> statement-breakpoint
CREATE FUNCTION "event_stays"() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'The time line is only added to.'; END $$;--> statement-breakpoint
CREATE TRIGGER "event_stays" BEFORE UPDATE OR DELETE ON "event" FOR EACH ROW EXECUTE FUNCTION "event_stays"();
