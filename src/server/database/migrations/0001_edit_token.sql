ALTER TABLE "edit" ADD COLUMN "token" uuid;--> statement-breakpoint
ALTER TABLE "edit" ADD CONSTRAINT "edit_jobId_token_unique" UNIQUE("job_id","token");