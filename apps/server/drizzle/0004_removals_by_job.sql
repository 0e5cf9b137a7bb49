DROP INDEX "removals_subject";--> statement-breakpoint
CREATE INDEX "removals_job" ON "removals" USING btree ("shop_id","job_number");