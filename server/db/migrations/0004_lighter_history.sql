ALTER TABLE "bm"."lane_history" DROP CONSTRAINT "lane_history_workspace_id_workspace_workspace_id_fk";
--> statement-breakpoint
DROP INDEX "bm"."lane_history_by_lane";--> statement-breakpoint
ALTER TABLE "bm"."lane_history" DROP CONSTRAINT "lane_history_workspace_id_id_pk";--> statement-breakpoint
ALTER TABLE "bm"."lane_history" ADD CONSTRAINT "lane_history_workspace_id_lane_id_at_pk" PRIMARY KEY("workspace_id","lane_id","at");--> statement-breakpoint
ALTER TABLE "bm"."lane_history" DROP COLUMN "id";--> statement-breakpoint
-- Documents are packed by LZ4 where the server has it: written and read several times faster than by the default.
DO $$ BEGIN
  ALTER TABLE bm.lane ALTER COLUMN data SET COMPRESSION lz4;
  ALTER TABLE bm.lane ALTER COLUMN result SET COMPRESSION lz4;
  ALTER TABLE bm.lane_history ALTER COLUMN result SET COMPRESSION lz4;
  ALTER TABLE bm.rate_card ALTER COLUMN data SET COMPRESSION lz4;
EXCEPTION WHEN feature_not_supported OR invalid_parameter_value THEN
  RAISE NOTICE 'This server has no LZ4; the default stays.';
END $$;
