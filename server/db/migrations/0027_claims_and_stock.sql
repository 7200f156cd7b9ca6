CREATE TABLE "bm"."fee_claim" (
	"workspace_id" text NOT NULL,
	"place" text NOT NULL,
	"lane_id" text NOT NULL,
	"code" text NOT NULL,
	"kind" text NOT NULL,
	"month" text NOT NULL,
	"why" text NOT NULL,
	"found" jsonb NOT NULL,
	"state" text DEFAULT 'open' NOT NULL,
	"claimed" double precision,
	"note" text DEFAULT '' NOT NULL,
	"stated_by" text,
	"stated_at" timestamp with time zone,
	CONSTRAINT "fee_claim_workspace_id_place_code_kind_month_why_pk" PRIMARY KEY("workspace_id","place","code","kind","month","why")
);
--> statement-breakpoint
ALTER TABLE "bm"."launched_lane" ADD COLUMN "counts" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "bm"."launched_lane" ADD COLUMN "stopped" jsonb;--> statement-breakpoint
ALTER TABLE "bm"."fee_claim" ADD CONSTRAINT "fee_claim_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."fee_claim" ADD CONSTRAINT "fee_claim_workspace_id_lane_id_lane_workspace_id_id_fk" FOREIGN KEY ("workspace_id","lane_id") REFERENCES "bm"."lane"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "settled_line_by_code" ON "bm"."settled_line" USING btree ("workspace_id","place","code","day");--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.fee_claim TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.fee_claim ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.fee_claim FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.fee_claim USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
--> statement-breakpoint
-- Orders from before there were bills have none.
UPDATE bm.purchase_order SET progress = '{"bills": []}'::jsonb || progress;
