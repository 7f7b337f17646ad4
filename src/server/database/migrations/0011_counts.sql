ALTER TABLE "job" ADD COLUMN "components" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "parts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE FUNCTION "job_counts"() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
  NEW.components := coalesce((SELECT count(*) FROM jsonb_array_elements(NEW.assembly->'nodes') n WHERE (n->>'part')::int >= 0), 0);
  NEW.parts := coalesce(jsonb_array_length(NEW.assembly->'parts'), 0);
  RETURN NEW;
END; $$;--> statement-breakpoint
CREATE TRIGGER "job_counted" BEFORE INSERT OR UPDATE OF "assembly" ON "job" FOR EACH ROW EXECUTE FUNCTION "job_counts"();--> statement-breakpoint
UPDATE "job" SET "assembly" = "assembly" WHERE "assembly" IS NOT NULL;
