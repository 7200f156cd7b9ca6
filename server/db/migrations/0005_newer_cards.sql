ALTER TABLE "bm"."lane" ADD COLUMN "newer_cards" jsonb DEFAULT '{}'::jsonb NOT NULL;
--> statement-breakpoint
DROP INDEX bm.lane_by_marketplace_card;
--> statement-breakpoint
-- Lanes by the marketplace card they are computed with, as `laneCard` reads it.
CREATE INDEX lane_by_marketplace_card ON bm.lane (workspace_id, coalesce(newer_cards ->> 'marketplaceCardId', data ->> 'marketplaceCardId'));
