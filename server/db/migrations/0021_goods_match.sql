CREATE TABLE "bm"."goods_match" (
	"workspace_id" text NOT NULL,
	"said" text NOT NULL,
	"key" bigint,
	"how" text NOT NULL,
	"by" text,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "goods_match_workspace_id_said_pk" PRIMARY KEY("workspace_id","said")
);
--> statement-breakpoint
ALTER TABLE "bm"."goods_match" ADD CONSTRAINT "goods_match_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.goods_match TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.goods_match ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.goods_match FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.goods_match USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
