CREATE TABLE "bm"."enquiry" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"candidate_id" text NOT NULL,
	"state" text DEFAULT 'draft' NOT NULL,
	"data" jsonb NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL,
	"created_by" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "enquiry_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "bm"."outgoing_mail" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"about" text NOT NULL,
	"data" jsonb NOT NULL,
	"attachments" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"error" jsonb,
	"due_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_by" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"sent_at" timestamp with time zone,
	CONSTRAINT "outgoing_mail_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "bm"."purchase_order" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"number" integer NOT NULL,
	"state" text DEFAULT 'draft' NOT NULL,
	"terms" jsonb NOT NULL,
	"progress" jsonb NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL,
	"created_by" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_by" text,
	CONSTRAINT "purchase_order_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
ALTER TABLE "bm"."supplier" ADD COLUMN "mail" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "bm"."supplier" ADD COLUMN "language" text DEFAULT 'en' NOT NULL;--> statement-breakpoint
ALTER TABLE "bm"."enquiry" ADD CONSTRAINT "enquiry_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."enquiry" ADD CONSTRAINT "enquiry_workspace_id_candidate_id_candidate_workspace_id_id_fk" FOREIGN KEY ("workspace_id","candidate_id") REFERENCES "bm"."candidate"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."outgoing_mail" ADD CONSTRAINT "outgoing_mail_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."purchase_order" ADD CONSTRAINT "purchase_order_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "enquiry_by_candidate" ON "bm"."enquiry" USING btree ("workspace_id","candidate_id");--> statement-breakpoint
CREATE UNIQUE INDEX "outgoing_mail_about" ON "bm"."outgoing_mail" USING btree ("workspace_id","about");--> statement-breakpoint
CREATE INDEX "outgoing_mail_waiting" ON "bm"."outgoing_mail" USING btree ("workspace_id","due_at") WHERE state = 'waiting';--> statement-breakpoint
CREATE UNIQUE INDEX "purchase_order_number" ON "bm"."purchase_order" USING btree ("workspace_id","number");
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.enquiry TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.enquiry ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.enquiry FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.enquiry USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));

--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.outgoing_mail TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.outgoing_mail ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.outgoing_mail FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.outgoing_mail USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));

--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON bm.purchase_order TO bm_app;
--> statement-breakpoint
ALTER TABLE bm.purchase_order ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE bm.purchase_order FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_workspace ON bm.purchase_order USING (workspace_id = current_setting('bm.workspace', true)) WITH CHECK (workspace_id = current_setting('bm.workspace', true));
