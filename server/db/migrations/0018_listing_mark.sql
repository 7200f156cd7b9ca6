CREATE TABLE "bm"."listing_mark" (
	"workspace_id" text NOT NULL,
	"market" text NOT NULL,
	"listing" text NOT NULL,
	"state" text NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"row" jsonb NOT NULL,
	"currency" text NOT NULL,
	"as_of" date NOT NULL,
	"candidate_id" text,
	"by" text,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "listing_mark_workspace_id_market_listing_pk" PRIMARY KEY("workspace_id","market","listing")
);
--> statement-breakpoint
ALTER TABLE "bm"."listing_mark" ADD CONSTRAINT "listing_mark_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.listing_mark TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.listing_mark ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.listing_mark FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.listing_mark USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
