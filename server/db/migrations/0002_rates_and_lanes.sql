CREATE TABLE "bm"."lane_history" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"lane_id" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" text,
	"cause" text NOT NULL,
	"result" jsonb NOT NULL,
	CONSTRAINT "lane_history_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "bm"."notice" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"kind" text NOT NULL,
	"data" jsonb NOT NULL,
	"link" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"read_at" timestamp with time zone,
	CONSTRAINT "notice_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "bm"."outside_answer" (
	"workspace_id" text NOT NULL,
	"question" text NOT NULL,
	"answer" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "outside_answer_workspace_id_question_pk" PRIMARY KEY("workspace_id","question")
);
--> statement-breakpoint
CREATE TABLE "bm"."rate_draft" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"based_on" text,
	"cells" jsonb NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL,
	"thrown_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_by" text,
	CONSTRAINT "rate_draft_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "bm"."task" (
	"workspace_id" text NOT NULL,
	"id" text NOT NULL,
	"kind" text NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"total" integer DEFAULT 0 NOT NULL,
	"data" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"error" text,
	"created_by" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "task_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
DROP INDEX "bm"."rate_card_by_key";--> statement-breakpoint
ALTER TABLE "bm"."lane" ADD COLUMN "unit_profit" double precision;--> statement-breakpoint
ALTER TABLE "bm"."lane" ADD COLUMN "margin" double precision;--> statement-breakpoint
ALTER TABLE "bm"."lane" ADD COLUMN "roi" double precision;--> statement-breakpoint
ALTER TABLE "bm"."lane" ADD COLUMN "profit_per_month" double precision;--> statement-breakpoint
ALTER TABLE "bm"."lane" ADD COLUMN "yearly_return_on_cash" double precision;--> statement-breakpoint
ALTER TABLE "bm"."lane" ADD COLUMN "launch_cash" double precision;--> statement-breakpoint
ALTER TABLE "bm"."lane" ADD COLUMN "whole" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "bm"."lane" ADD COLUMN "scenario_of" text;--> statement-breakpoint
ALTER TABLE "bm"."rate_card" ADD COLUMN "based_on" text;--> statement-breakpoint
ALTER TABLE "bm"."rate_card" ADD COLUMN "withdrawn_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "bm"."rate_card" ADD COLUMN "created_by" text;--> statement-breakpoint
ALTER TABLE "bm"."lane_history" ADD CONSTRAINT "lane_history_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."lane_history" ADD CONSTRAINT "lane_history_workspace_id_lane_id_lane_workspace_id_id_fk" FOREIGN KEY ("workspace_id","lane_id") REFERENCES "bm"."lane"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."notice" ADD CONSTRAINT "notice_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."outside_answer" ADD CONSTRAINT "outside_answer_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."rate_draft" ADD CONSTRAINT "rate_draft_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bm"."task" ADD CONSTRAINT "task_workspace_id_workspace_workspace_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "bm"."workspace"("workspace_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "lane_history_by_lane" ON "bm"."lane_history" USING btree ("workspace_id","lane_id","at");--> statement-breakpoint
CREATE INDEX "notice_by_time" ON "bm"."notice" USING btree ("workspace_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "rate_card_one_a_day" ON "bm"."rate_card" USING btree ("workspace_id","kind","key","in_force_from") WHERE withdrawn_at is null;