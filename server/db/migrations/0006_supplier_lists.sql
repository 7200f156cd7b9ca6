CREATE TABLE "bm"."goods_mark" (
	"workspace_id" text NOT NULL,
	"key" bigint NOT NULL,
	"state" text,
	"reason" text DEFAULT '' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"tags" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"sold_pack" integer,
	"bought_pack" integer,
	"candidate_id" text,
	"list_id" text,
	"name" text DEFAULT '' NOT NULL,
	"profit_per_month" double precision,
	"by" text,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "goods_mark_workspace_id_key_pk" PRIMARY KEY("workspace_id","key")
);
--> statement-breakpoint
CREATE TABLE "bm"."list_row" (
	"workspace_id" text NOT NULL,
	"run_id" uuid NOT NULL,
	"line" integer NOT NULL,
	"key" bigint NOT NULL,
	"code" text NOT NULL,
	"title" text NOT NULL,
	"brand" text NOT NULL,
	"category" text NOT NULL,
	"cost" double precision NOT NULL,
	"price" double precision,
	"units" double precision,
	"more" jsonb
) PARTITION BY LIST ("run_id");
--> statement-breakpoint
CREATE TABLE "bm"."list_view" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"name" text NOT NULL,
	"look" jsonb NOT NULL,
	"assumptions" jsonb,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "list_view_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "bm"."supplier_list" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"name" text NOT NULL,
	"supplier_id" text,
	"file" jsonb NOT NULL,
	"sheet" text,
	"map" jsonb,
	"settings" jsonb,
	"look" jsonb,
	"reference" jsonb,
	"previous_id" text,
	"check_id" text,
	"run_id" text,
	"created_by" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone,
	CONSTRAINT "supplier_list_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
ALTER TABLE "bm"."supplier" ADD COLUMN "list_map" jsonb;--> statement-breakpoint
ALTER TABLE "bm"."goods_mark" ADD CONSTRAINT "goods_mark_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."list_view" ADD CONSTRAINT "list_view_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."supplier_list" ADD CONSTRAINT "supplier_list_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "goods_mark_by_time" ON "bm"."goods_mark" USING btree ("workspace_id","at");
--> statement-breakpoint
-- The loader: fills a table for each run in a schema of its own by COPY, which row-level security does not allow, and attaches it
-- to bm.list_row, behind whose policy it then stands. It owns that table and its partitions (the start command sees to it), and
-- notes in bm.task how far it is, in the same transaction.
DO $$ BEGIN
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'bm_loader') THEN CREATE ROLE bm_loader LOGIN NOSUPERUSER NOBYPASSRLS NOCREATEDB NOCREATEROLE; END IF;
END $$;
--> statement-breakpoint
CREATE SCHEMA lists;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA bm TO bm_app;
--> statement-breakpoint
GRANT USAGE ON SCHEMA bm TO bm_loader;
--> statement-breakpoint
GRANT SELECT, UPDATE ON bm.task TO bm_loader;
--> statement-breakpoint
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['goods_mark', 'list_row', 'list_view', 'supplier_list'] LOOP
    EXECUTE format('ALTER TABLE bm.%I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE bm.%I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_workspace ON bm.%I USING (workspace_id = current_setting(''bm.workspace'', true)) WITH CHECK (workspace_id = current_setting(''bm.workspace'', true))', t);
  END LOOP;
END $$;
