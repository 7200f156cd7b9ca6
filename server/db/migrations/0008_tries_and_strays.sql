CREATE TABLE "auth"."attempt" (
	"key" text PRIMARY KEY NOT NULL,
	"count" integer NOT NULL,
	"since" timestamp with time zone NOT NULL
);
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA auth TO bm_auth;
--> statement-breakpoint
-- The queue finds work that was stored and never came to it: of tasks that are not finished it sees which there are, and no more.
DO $$ BEGIN
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'bm_jobs') THEN CREATE ROLE bm_jobs LOGIN NOSUPERUSER NOBYPASSRLS NOCREATEDB NOCREATEROLE; END IF;
END $$;
--> statement-breakpoint
GRANT USAGE ON SCHEMA bm TO bm_jobs;
--> statement-breakpoint
GRANT SELECT (workspace_id, id, kind, state, updated_at) ON bm.task TO bm_jobs;
--> statement-breakpoint
CREATE POLICY unfinished ON bm.task FOR SELECT TO bm_jobs USING (state IN ('waiting', 'running'));
