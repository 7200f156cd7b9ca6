CREATE TABLE "bm"."card_proof" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"card_key" text NOT NULL,
	"data" jsonb NOT NULL,
	"created_by" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "card_proof_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "bm"."schedule_choice" (
	"workspace_id" text NOT NULL,
	"cell" text NOT NULL,
	"reading" integer NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "schedule_choice_workspace_id_cell_pk" PRIMARY KEY("workspace_id","cell")
);
--> statement-breakpoint
ALTER TABLE "bm"."card_proof" ADD CONSTRAINT "card_proof_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."schedule_choice" ADD CONSTRAINT "schedule_choice_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "card_proof_of_card" ON "bm"."card_proof" USING btree ("workspace_id","card_key","created_at");
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA bm TO bm_app;
--> statement-breakpoint
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['card_proof', 'schedule_choice'] LOOP
    EXECUTE format('ALTER TABLE bm.%I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE bm.%I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_workspace ON bm.%I USING (workspace_id = current_setting(''bm.workspace'', true)) WITH CHECK (workspace_id = current_setting(''bm.workspace'', true))', t);
  END LOOP;
END $$;
