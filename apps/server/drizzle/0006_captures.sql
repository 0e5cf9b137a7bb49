CREATE TABLE "capture_parts" (
	"shop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"capture_id" uuid NOT NULL,
	"part" text NOT NULL,
	"content" "bytea" NOT NULL,
	CONSTRAINT "capture_parts_shop_id_job_id_capture_id_part_pk" PRIMARY KEY("shop_id","job_id","capture_id","part")
);
--> statement-breakpoint
CREATE TABLE "captures" (
	"shop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"content" jsonb NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "captures_shop_id_job_id_id_pk" PRIMARY KEY("shop_id","job_id","id")
);
--> statement-breakpoint
ALTER TABLE "capture_parts" ADD CONSTRAINT "capture_parts_capture_fk" FOREIGN KEY ("shop_id","job_id","capture_id") REFERENCES "public"."captures"("shop_id","job_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "captures" ADD CONSTRAINT "captures_job_fk" FOREIGN KEY ("shop_id","job_id") REFERENCES "public"."jobs"("shop_id","id") ON DELETE cascade ON UPDATE no action;