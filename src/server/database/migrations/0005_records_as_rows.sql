CREATE TABLE "drawing_record" (
	"job_id" uuid NOT NULL,
	"id" text NOT NULL,
	"data" jsonb NOT NULL,
	CONSTRAINT "drawing_record_job_id_id_pk" PRIMARY KEY("job_id","id")
);
--> statement-breakpoint
ALTER TABLE "edit" ADD COLUMN "below" integer;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "document_format" integer DEFAULT 2 NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "undo_head" integer;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "redo_head" integer;--> statement-breakpoint
ALTER TABLE "drawing_record" ADD CONSTRAINT "drawing_record_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
INSERT INTO "drawing_record" ("job_id", "id", "data") SELECT "job"."id", "entry"."key", "entry"."value" FROM "job", jsonb_each("job"."document") AS "entry" WHERE "job"."document" IS NOT NULL;
--> statement-breakpoint
UPDATE "job" SET "document_format" = 1 WHERE "document" IS NOT NULL;
--> statement-breakpoint
-- The undo and redo stacks, once read from the whole log, become lists through it.
DO $$
DECLARE
	one RECORD;
	entry RECORD;
	undone integer[];
	redone integer[];
BEGIN
	FOR one IN SELECT "id" FROM "job" LOOP
		undone := '{}';
		redone := '{}';
		FOR entry IN SELECT "id", "version", "kind" FROM "edit" WHERE "job_id" = one."id" ORDER BY "version" LOOP
			IF entry."kind" = 'undo' THEN
				IF cardinality(undone) > 0 THEN undone := undone[1:cardinality(undone) - 1]; END IF;
				UPDATE "edit" SET "below" = redone[cardinality(redone)] WHERE "id" = entry."id";
				redone := redone || entry."version";
			ELSE
				IF entry."kind" = 'edit' THEN
					redone := '{}';
				ELSIF cardinality(redone) > 0 THEN
					redone := redone[1:cardinality(redone) - 1];
				END IF;
				UPDATE "edit" SET "below" = undone[cardinality(undone)] WHERE "id" = entry."id";
				undone := undone || entry."version";
			END IF;
		END LOOP;
		UPDATE "job" SET "undo_head" = undone[cardinality(undone)], "redo_head" = redone[cardinality(redone)] WHERE "id" = one."id";
	END LOOP;
END $$;
