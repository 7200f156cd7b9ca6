CREATE TABLE "bm"."launched_lane" (
	"workspace_id" text NOT NULL,
	"lane_id" text NOT NULL,
	"candidate_id" text NOT NULL,
	"place" text NOT NULL,
	"codes" jsonb NOT NULL,
	"since" date NOT NULL,
	"ramp" jsonb NOT NULL,
	"document" jsonb NOT NULL,
	"created_by" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "launched_lane_workspace_id_lane_id_pk" PRIMARY KEY("workspace_id","lane_id")
);
--> statement-breakpoint
CREATE TABLE "bm"."settled_line" (
	"workspace_id" text NOT NULL,
	"settlement_id" text NOT NULL,
	"row" integer NOT NULL,
	"key" text NOT NULL,
	"place" text NOT NULL,
	"seq" integer NOT NULL,
	"day" date NOT NULL,
	"order" text NOT NULL,
	"code" text NOT NULL,
	"kind" text,
	"said" text NOT NULL,
	"amount" bigint NOT NULL,
	"tax" bigint,
	"units" integer NOT NULL,
	"counts" boolean DEFAULT true NOT NULL,
	CONSTRAINT "settled_line_workspace_id_settlement_id_key_pk" PRIMARY KEY("workspace_id","settlement_id","key")
);
--> statement-breakpoint
CREATE TABLE "bm"."settled_month" (
	"workspace_id" text NOT NULL,
	"place" text NOT NULL,
	"code" text NOT NULL,
	"month" text NOT NULL,
	"sums" jsonb NOT NULL,
	CONSTRAINT "settled_month_workspace_id_place_code_month_pk" PRIMARY KEY("workspace_id","place","code","month")
);
--> statement-breakpoint
CREATE TABLE "bm"."settlement" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"seq" integer NOT NULL,
	"name" text NOT NULL,
	"file" jsonb NOT NULL,
	"sheet" text,
	"marketplace" text,
	"country" text,
	"currency" text,
	"map" jsonb,
	"said" jsonb,
	"created_by" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "settlement_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
ALTER TABLE "bm"."launched_lane" ADD CONSTRAINT "launched_lane_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."launched_lane" ADD CONSTRAINT "launched_lane_workspace_id_lane_id_lane_workspace_id_id_fk" FOREIGN KEY ("workspace_id","lane_id") REFERENCES "bm"."lane"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."settled_line" ADD CONSTRAINT "settled_line_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."settled_line" ADD CONSTRAINT "settled_line_workspace_id_settlement_id_settlement_workspace_id_id_fk" FOREIGN KEY ("workspace_id","settlement_id") REFERENCES "bm"."settlement"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."settled_month" ADD CONSTRAINT "settled_month_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."settlement" ADD CONSTRAINT "settlement_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "settled_line_by_key" ON "bm"."settled_line" USING btree ("workspace_id","place","key");--> statement-breakpoint
CREATE UNIQUE INDEX "settlement_by_seq" ON "bm"."settlement" USING btree ("workspace_id","seq");
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.settlement TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.settlement ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.settlement FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.settlement USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.settled_line TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.settled_line ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.settled_line FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.settled_line USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.settled_month TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.settled_month ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.settled_month FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.settled_month USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.launched_lane TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.launched_lane ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.launched_lane FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.launched_lane USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
