CREATE TABLE "issuing" (
	"job_id" uuid PRIMARY KEY NOT NULL,
	"request" jsonb NOT NULL,
	"address" text NOT NULL,
	"revision" text NOT NULL,
	"kind" text NOT NULL,
	"state" text NOT NULL,
	"progress" real DEFAULT 0 NOT NULL,
	"error_text" text,
	"cancel_wanted" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
ALTER TABLE "job" ALTER COLUMN "document_format" SET DEFAULT 3;--> statement-breakpoint
ALTER TABLE "issuing" ADD CONSTRAINT "issuing_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE cascade ON UPDATE no action;