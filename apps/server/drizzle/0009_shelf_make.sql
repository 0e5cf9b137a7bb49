ALTER TABLE "shelf" ADD COLUMN "make" text;--> statement-breakpoint
CREATE INDEX "shelf_make" ON "shelf" USING btree ("shop_id","make");--> statement-breakpoint
UPDATE "shelf" SET "make" = lower(trim("item" #>> '{record,vehicle,make}'));
