CREATE TABLE "bm"."evidence_map" (
	"workspace_id" text NOT NULL,
	"kind" text NOT NULL,
	"data" jsonb NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "evidence_map_workspace_id_kind_pk" PRIMARY KEY("workspace_id","kind")
);
--> statement-breakpoint
CREATE TABLE "bm"."observation" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"subject" text NOT NULL,
	"market" text NOT NULL,
	"kind" text NOT NULL,
	"as_of" date NOT NULL,
	"source" text NOT NULL,
	"stated" boolean NOT NULL,
	"value" jsonb NOT NULL,
	"taken_back_at" timestamp with time zone,
	"created_by" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "observation_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "bm"."watched" (
	"workspace_id" text NOT NULL,
	"candidate_id" text NOT NULL,
	"market" text NOT NULL,
	"data" jsonb NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL,
	"asked_at" timestamp with time zone,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_by" text,
	CONSTRAINT "watched_workspace_id_candidate_id_market_pk" PRIMARY KEY("workspace_id","candidate_id","market")
);
--> statement-breakpoint
ALTER TABLE "bm"."evidence_map" ADD CONSTRAINT "evidence_map_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."observation" ADD CONSTRAINT "observation_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."watched" ADD CONSTRAINT "watched_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."watched" ADD CONSTRAINT "watched_workspace_id_candidate_id_candidate_workspace_id_id_fk" FOREIGN KEY ("workspace_id","candidate_id") REFERENCES "bm"."candidate"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "observation_newest" ON "bm"."observation" USING btree ("workspace_id","subject","market","kind","as_of","created_at");
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.watched, bm.evidence_map TO bm_app;
--> statement-breakpoint
-- What was observed stays: rows are added, and one can be taken back; nothing else of them changes. Later migrations
-- name the tables they grant, so that this holds.
GRANT SELECT, INSERT, UPDATE (taken_back_at) ON bm.observation TO bm_app;
--> statement-breakpoint
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['observation', 'watched', 'evidence_map'] LOOP
    EXECUTE format('ALTER TABLE bm.%I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE bm.%I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_workspace ON bm.%I USING (workspace_id = current_setting(''bm.workspace'', true)) WITH CHECK (workspace_id = current_setting(''bm.workspace'', true))', t);
  END LOOP;
END $$;
