CREATE TABLE "bm"."check_session" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"data" jsonb NOT NULL,
	"by" text NOT NULL,
	"changed_at" timestamp with time zone NOT NULL,
	CONSTRAINT "check_session_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "bm"."shelf_check" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"session_id" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"data" jsonb NOT NULL,
	"said" jsonb NOT NULL,
	"candidate_id" text,
	"by" text NOT NULL,
	"kept_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "shelf_check_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
ALTER TABLE "bm"."check_session" ADD CONSTRAINT "check_session_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."shelf_check" ADD CONSTRAINT "shelf_check_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "check_session_by_time" ON "bm"."check_session" USING btree ("workspace_id","changed_at");--> statement-breakpoint
CREATE INDEX "shelf_check_by_session" ON "bm"."shelf_check" USING btree ("workspace_id","session_id","at");--> statement-breakpoint
CREATE INDEX "candidate_by_barcode" ON "bm"."candidate" USING btree ("workspace_id",lpad("data" ->> 'gtin', 14, '0')) WHERE "bm"."candidate"."data" ->> 'gtin' is not null;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.check_session TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.check_session ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.check_session FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.check_session USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.shelf_check TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.shelf_check ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.shelf_check FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.shelf_check USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
