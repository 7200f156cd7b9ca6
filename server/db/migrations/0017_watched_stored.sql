ALTER TABLE "bm"."watched" ADD COLUMN "seen_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "bm"."watched" ADD COLUMN "stored" jsonb;