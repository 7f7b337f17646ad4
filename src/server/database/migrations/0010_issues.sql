CREATE TABLE "bench_answer" (
	"id" uuid PRIMARY KEY NOT NULL,
	"issue_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"step" integer NOT NULL,
	"point" integer,
	"done" boolean,
	"text" text,
	"photo" "bytea",
	"serial" text NOT NULL,
	"who" text NOT NULL,
	"said_at" timestamp with time zone NOT NULL,
	"answer" text,
	"answered_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "issue" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"place" integer NOT NULL,
	"revision" text NOT NULL,
	"kind" text NOT NULL,
	"date" text NOT NULL,
	"people" jsonb NOT NULL,
	"words" jsonb NOT NULL,
	"version" integer NOT NULL,
	"document" jsonb NOT NULL,
	"document_format" integer NOT NULL,
	"sha256" text NOT NULL,
	"files" jsonb NOT NULL,
	"data" "bytea" NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "issue_jobId_place_unique" UNIQUE("job_id","place")
);
--> statement-breakpoint
ALTER TABLE "bench_answer" ADD CONSTRAINT "bench_answer_issue_id_issue_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issue"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue" ADD CONSTRAINT "issue_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bench_answer_issue_id_index" ON "bench_answer" USING btree ("issue_id");--> statement-breakpoint
CREATE FUNCTION "issue_is_frozen"() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'What was issued is not changed.'; END; $$;--> statement-breakpoint
CREATE TRIGGER "issue_frozen" BEFORE UPDATE ON "issue" FOR EACH ROW EXECUTE FUNCTION "issue_is_frozen"();
