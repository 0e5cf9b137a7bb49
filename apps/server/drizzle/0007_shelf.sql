CREATE TABLE "shelf" (
	"shop_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"item" jsonb NOT NULL,
	"kind" text NOT NULL,
	"family" text NOT NULL,
	"problems" jsonb NOT NULL,
	"passes" jsonb NOT NULL,
	"sameness" text NOT NULL,
	"search" text NOT NULL,
	"import_id" uuid,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "shelf_shop_id_id_pk" PRIMARY KEY("shop_id","id")
);
--> statement-breakpoint
CREATE TABLE "shelf_imports" (
	"shop_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"name" text NOT NULL,
	"by" text NOT NULL,
	"count" integer NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"undone_at" timestamp with time zone,
	CONSTRAINT "shelf_imports_shop_id_id_pk" PRIMARY KEY("shop_id","id")
);
--> statement-breakpoint
ALTER TABLE "shelf" ADD CONSTRAINT "shelf_shop_id_shops_id_fk" FOREIGN KEY ("shop_id") REFERENCES "public"."shops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_imports" ADD CONSTRAINT "shelf_imports_shop_id_shops_id_fk" FOREIGN KEY ("shop_id") REFERENCES "public"."shops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "shelf_import" ON "shelf" USING btree ("shop_id","import_id");--> statement-breakpoint
CREATE INDEX "shelf_sameness" ON "shelf" USING btree ("shop_id","sameness");--> statement-breakpoint
CREATE INDEX "shelf_family" ON "shelf" USING btree ("shop_id","family");--> statement-breakpoint
CREATE INDEX "shelf_search" ON "shelf" USING gin ("search" gin_trgm_ops);