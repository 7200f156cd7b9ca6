CREATE TABLE "bm"."closer_look" (
	"workspace_id" text NOT NULL,
	"list_id" text NOT NULL,
	"key" bigint NOT NULL,
	"line" integer NOT NULL,
	"code" text NOT NULL,
	"title" text NOT NULL,
	"market" text NOT NULL,
	"listing" text DEFAULT '' NOT NULL,
	"listing_title" text DEFAULT '' NOT NULL,
	"other_goods" boolean DEFAULT false NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"fault" jsonb,
	"by" text,
	"asked_at" timestamp with time zone DEFAULT now() NOT NULL,
	"looked_at" timestamp with time zone,
	CONSTRAINT "closer_look_workspace_id_list_id_key_pk" PRIMARY KEY("workspace_id","list_id","key")
);
--> statement-breakpoint
ALTER TABLE "bm"."closer_look" ADD CONSTRAINT "closer_look_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.closer_look TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.closer_look ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.closer_look FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.closer_look USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
