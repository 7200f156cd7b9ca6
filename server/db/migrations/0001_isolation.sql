-- Two roles that own nothing: one for business data, one for sign-in. Passwords are set by the start command.
DO $$ BEGIN
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'bm_app') THEN CREATE ROLE bm_app LOGIN NOSUPERUSER NOBYPASSRLS NOCREATEDB NOCREATEROLE; END IF;
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'bm_auth') THEN CREATE ROLE bm_auth LOGIN NOSUPERUSER NOBYPASSRLS NOCREATEDB NOCREATEROLE; END IF;
END $$;
--> statement-breakpoint
GRANT USAGE ON SCHEMA bm TO bm_app;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA bm TO bm_app;
--> statement-breakpoint
GRANT USAGE ON SCHEMA auth TO bm_auth;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA auth TO bm_auth;
--> statement-breakpoint
-- The workspace of a transaction is set by set_config('bm.workspace', id, true); without it no row is seen.
DO $$
DECLARE t text;
BEGIN
  FOR t IN SELECT tablename FROM pg_tables WHERE schemaname = 'bm' LOOP
    EXECUTE format('ALTER TABLE bm.%I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE bm.%I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_workspace ON bm.%I USING (workspace_id = current_setting(''bm.workspace'', true)) WITH CHECK (workspace_id = current_setting(''bm.workspace'', true))', t);
  END LOOP;
END $$;
