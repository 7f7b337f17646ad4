-- Results of an older engine are computed anew when they are asked for.
DELETE FROM "view_result";--> statement-breakpoint
ALTER TABLE "view_result" ADD COLUMN "seen" "bytea" NOT NULL;