CREATE TABLE "bm"."feed" (
	"workspace_id" text NOT NULL,
	"address" text NOT NULL,
	"secret" text,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_by" text,
	CONSTRAINT "feed_workspace_id_pk" PRIMARY KEY("workspace_id")
);
--> statement-breakpoint
ALTER TABLE "bm"."feed" ADD CONSTRAINT "feed_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.feed TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.feed ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.feed FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.feed USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
