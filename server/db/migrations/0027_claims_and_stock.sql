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
CREATE TABLE "bm"."settled_place" (
	"workspace_id" text NOT NULL,
	"place" text NOT NULL,
	"currency" text NOT NULL,
	"last" date,
	"codes" jsonb NOT NULL,
	"months" jsonb NOT NULL,
	CONSTRAINT "settled_place_workspace_id_place_pk" PRIMARY KEY("workspace_id","place")
);
--> statement-breakpoint
ALTER TABLE "bm"."launched_lane" ADD COLUMN "counts" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "bm"."launched_lane" ADD COLUMN "stopped" jsonb;--> statement-breakpoint
ALTER TABLE "bm"."launched_lane" ADD COLUMN "book" jsonb;--> statement-breakpoint
ALTER TABLE "bm"."fee_claim" ADD CONSTRAINT "fee_claim_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."fee_claim" ADD CONSTRAINT "fee_claim_workspace_id_lane_id_lane_workspace_id_id_fk" FOREIGN KEY ("workspace_id","lane_id") REFERENCES "bm"."lane"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."settled_place" ADD CONSTRAINT "settled_place_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "settled_line_by_order" ON "bm"."settled_line" USING btree ("workspace_id","place","order");--> statement-breakpoint
CREATE INDEX "settled_line_by_day" ON "bm"."settled_line" USING btree ("workspace_id","place","code","day");--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.fee_claim TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.fee_claim ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.fee_claim FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.fee_claim USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.settled_place TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.settled_place ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.settled_place FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.settled_place USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
--> statement-breakpoint
-- Orders from before there were bills have none.
UPDATE bm.purchase_order SET progress = '{"bills": []}'::jsonb || progress;
--> statement-breakpoint
-- Places that were settled before they were kept as a whole.
WITH kinds AS (
  SELECT m.workspace_id, m.place, m.code, m.month, k.key AS kind,
    (k.value ->> 'amount')::float8 AS amount, (k.value ->> 'units')::int AS units
  FROM bm.settled_month m, jsonb_each(m.sums) k),
codes AS (
  SELECT workspace_id, place, code, coalesce(sum(units) FILTER (WHERE kind = 'sale'), 0) AS units,
    coalesce(sum(amount) FILTER (WHERE kind <> 'transfer'), 0) / 10000 AS amount
  FROM kinds GROUP BY 1, 2, 3),
months AS (
  SELECT workspace_id, place, month, coalesce(sum(amount) FILTER (WHERE kind <> 'transfer'), 0) / 10000 AS settled,
    -sum(amount) FILTER (WHERE kind = 'transfer') / 10000 AS paid_out
  FROM kinds GROUP BY 1, 2, 3),
about AS (
  SELECT workspace_id, concat(marketplace, '/', country) AS place, max(currency) AS currency,
    max(said ->> 'last')::date AS last
  FROM bm.settlement WHERE marketplace IS NOT NULL AND country IS NOT NULL AND currency IS NOT NULL GROUP BY 1, 2)
INSERT INTO bm.settled_place (workspace_id, place, currency, last, codes, months)
SELECT a.workspace_id, a.place, a.currency, a.last,
  (SELECT jsonb_agg(jsonb_build_object('code', c.code, 'units', c.units, 'amount', c.amount)) FROM codes c
    WHERE c.workspace_id = a.workspace_id AND c.place = a.place),
  (SELECT jsonb_agg(jsonb_build_object('month', m.month, 'settled', m.settled, 'paidOut', m.paid_out)) FROM months m
    WHERE m.workspace_id = a.workspace_id AND m.place = a.place)
FROM about a WHERE EXISTS (SELECT 1 FROM codes c WHERE c.workspace_id = a.workspace_id AND c.place = a.place);
--> statement-breakpoint
-- Statistics of lines that were stored a moment ago, for the role that stores them and may not ask for them itself.
CREATE FUNCTION bm.look_at_settled_lines() RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = bm AS 'ANALYZE bm.settled_line';
--> statement-breakpoint
REVOKE ALL ON FUNCTION bm.look_at_settled_lines() FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION bm.look_at_settled_lines() TO bm_app;
