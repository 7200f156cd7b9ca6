CREATE TABLE "bm"."watched_seller" (
	"workspace_id" text NOT NULL,
	"market" text NOT NULL,
	"seller" text NOT NULL,
	"data" jsonb NOT NULL,
	"asked_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_by" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "watched_seller_workspace_id_market_seller_pk" PRIMARY KEY("workspace_id","market","seller")
);
--> statement-breakpoint
ALTER TABLE "bm"."watched_seller" ADD CONSTRAINT "watched_seller_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.watched_seller TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.watched_seller ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.watched_seller FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.watched_seller USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
