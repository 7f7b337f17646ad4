CREATE TABLE "edit" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"kind" text NOT NULL,
	"label" text NOT NULL,
	"steps" jsonb NOT NULL,
	"inverse" jsonb NOT NULL,
	"turns" integer,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "edit_jobId_version_unique" UNIQUE("job_id","version")
);
--> statement-breakpoint
CREATE TABLE "geometry" (
	"key" text PRIMARY KEY NOT NULL,
	"data" "bytea" NOT NULL,
	"picture" text
);
--> statement-breakpoint
CREATE TABLE "job" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"title" text NOT NULL,
	"state" text DEFAULT 'queued' NOT NULL,
	"stage" text DEFAULT 'queued' NOT NULL,
	"progress" real DEFAULT 0 NOT NULL,
	"error_code" text,
	"error_text" text,
	"cancel_wanted" boolean DEFAULT false NOT NULL,
	"demo" boolean DEFAULT false NOT NULL,
	"file_bytes" integer DEFAULT 0 NOT NULL,
	"sheet" text,
	"standard" text DEFAULT 'iso' NOT NULL,
	"assembly" jsonb,
	"document" jsonb,
	"version" integer DEFAULT 0 NOT NULL,
	"timings" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "job_file" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"place" integer NOT NULL,
	"name" text NOT NULL,
	"data" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "view_result" (
	"key" text PRIMARY KEY NOT NULL,
	"data" "bytea" NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "worker" (
	"id" text PRIMARY KEY NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "edit" ADD CONSTRAINT "edit_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "job_file" ADD CONSTRAINT "job_file_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "job_file_job_id_index" ON "job_file" USING btree ("job_id");