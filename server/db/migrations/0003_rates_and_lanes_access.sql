-- The tables of 0002 behind the same second wall as the others.
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA bm TO bm_app;
--> statement-breakpoint
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['rate_draft', 'lane_history', 'task', 'notice', 'outside_answer'] LOOP
    EXECUTE format('ALTER TABLE bm.%I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE bm.%I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_workspace ON bm.%I USING (workspace_id = current_setting(''bm.workspace'', true)) WITH CHECK (workspace_id = current_setting(''bm.workspace'', true))', t);
  END LOOP;
END $$;
--> statement-breakpoint
-- Lanes by the card versions they are computed with.
CREATE INDEX lane_by_marketplace_card ON bm.lane (workspace_id, (data ->> 'marketplaceCardId'));
--> statement-breakpoint
-- Measures of the lanes stored before the columns were there; what a launch takes follows at the next save.
UPDATE bm.lane l SET
  margin = (l.result -> 'figures' ->> 'margin')::float8,
  roi = (l.result -> 'figures' ->> 'roi')::float8,
  yearly_return_on_cash = (l.result -> 'figures' ->> 'yearlyReturnOnCash')::float8,
  unit_profit = (l.result -> 'figures' ->> 'unitProfit')::float8 * x.factor,
  profit_per_month = (l.result -> 'figures' ->> 'profitPerMonth')::float8 * x.factor,
  whole = NOT coalesce(l.result -> 'incomplete' ? 'unitProfit', false)
FROM (
  SELECT i.workspace_id, i.id, CASE WHEN i.result ->> 'currency' = w.settings ->> 'homeCurrency' THEN 1 ELSE
    (CASE WHEN c.data ->> 'base' = w.settings ->> 'homeCurrency' THEN 1 ELSE (c.data -> 'rates' ->> (w.settings ->> 'homeCurrency'))::float8 END)
    / (CASE WHEN c.data ->> 'base' = i.result ->> 'currency' THEN 1 ELSE (c.data -> 'rates' ->> (i.result ->> 'currency'))::float8 END) END AS factor
  FROM bm.lane i JOIN bm.workspace w USING (workspace_id) LEFT JOIN bm.rate_card c ON c.workspace_id = i.workspace_id AND c.id = i.data ->> 'exchangeCardId'
) x
WHERE x.workspace_id = l.workspace_id AND x.id = l.id AND l.result IS NOT NULL;
--> statement-breakpoint
-- The queue of long work stands in a schema of its own; the start command fills it and lets this role work in it.
DO $$ BEGIN
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'bm_jobs') THEN CREATE ROLE bm_jobs LOGIN NOSUPERUSER NOBYPASSRLS NOCREATEDB NOCREATEROLE; END IF;
END $$;
