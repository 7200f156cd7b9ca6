CREATE TABLE "bm"."notice_mail" (
	"workspace_id" text NOT NULL,
	"user_id" text NOT NULL,
	"since" jsonb NOT NULL,
	"locale" text NOT NULL,
	"mailed_up_to" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "notice_mail_workspace_id_user_id_pk" PRIMARY KEY("workspace_id","user_id")
);
--> statement-breakpoint
ALTER TABLE "bm"."notice_mail" ADD CONSTRAINT "notice_mail_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.notice_mail TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.notice_mail ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.notice_mail FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.notice_mail USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
