ALTER TABLE "bm"."goods_mark" ADD COLUMN "listings" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
-- Stood in early forms of 0006, and was never written.
ALTER TABLE "bm"."goods_mark" DROP COLUMN IF EXISTS "listing";
