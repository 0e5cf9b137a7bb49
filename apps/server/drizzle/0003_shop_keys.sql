-- Every key starts with the shop. Servers from before this cannot write any more: they must have stopped.
-- needs: no other server running
CREATE TABLE "password_resets" (
	"code" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL REFERENCES "people"("id") ON DELETE cascade,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "removals" (
	"shop_id" uuid NOT NULL REFERENCES "shops"("id"),
	"id" uuid NOT NULL,
	"what" text NOT NULL,
	"job_number" integer,
	"subject" uuid NOT NULL,
	"by" text NOT NULL,
	"person_id" uuid,
	"reason" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "removals_shop_id_id_pk" PRIMARY KEY("shop_id","id")
);
--> statement-breakpoint
CREATE INDEX "removals_subject" ON "removals" USING btree ("shop_id","subject");--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "owner" boolean DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE "people" SET "owner" = true WHERE "id" = (SELECT "id" FROM "people" WHERE "role" = 'foreman' AND "active" ORDER BY "created_at", "id" LIMIT 1);--> statement-breakpoint
ALTER TABLE "shops" ADD COLUMN "last_job_number" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
-- What names another row by half of its new key lets go first.
ALTER TABLE "entries" DROP CONSTRAINT "entries_job_id_jobs_id_fk";--> statement-breakpoint
ALTER TABLE "photos" DROP CONSTRAINT "photos_job_id_jobs_id_fk";--> statement-breakpoint
ALTER TABLE "recordings" DROP CONSTRAINT "recordings_job_id_jobs_id_fk";--> statement-breakpoint
ALTER TABLE "jobs" DROP CONSTRAINT "jobs_vehicle_id_vehicles_id_fk";--> statement-breakpoint
DROP INDEX "photos_job";--> statement-breakpoint
DROP INDEX "recordings_job";--> statement-breakpoint
DROP INDEX "vehicles_shop";--> statement-breakpoint
DROP INDEX "jobs_vehicle";--> statement-breakpoint
DROP INDEX "jobs_assignee";--> statement-breakpoint
ALTER TABLE "vehicles" DROP CONSTRAINT "vehicles_pkey", ADD CONSTRAINT "vehicles_shop_id_id_pk" PRIMARY KEY("shop_id","id");--> statement-breakpoint
-- Every shop counts its own jobs; numbers given so far stay.
ALTER TABLE "jobs" ALTER COLUMN "number" DROP DEFAULT;--> statement-breakpoint
DROP SEQUENCE IF EXISTS "jobs_number_seq";--> statement-breakpoint
ALTER TABLE "jobs" ALTER COLUMN "number" SET DATA TYPE integer;--> statement-breakpoint
UPDATE "shops" SET "last_job_number" = coalesce((SELECT max("number") FROM "jobs" WHERE "jobs"."shop_id" = "shops"."id"), 0);--> statement-breakpoint
ALTER TABLE "jobs" DROP CONSTRAINT "jobs_pkey", ADD CONSTRAINT "jobs_shop_id_id_pk" PRIMARY KEY("shop_id","id");--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_number" UNIQUE("shop_id","number");--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_vehicle_fk" FOREIGN KEY ("shop_id","vehicle_id") REFERENCES "vehicles"("shop_id","id");--> statement-breakpoint
CREATE INDEX "jobs_vehicle" ON "jobs" USING btree ("shop_id","vehicle_id");--> statement-breakpoint
CREATE INDEX "jobs_assignee" ON "jobs" USING btree ("shop_id","assignee_id");--> statement-breakpoint
-- Where a job's entries stand: small rows, changed in place.
CREATE TABLE "job_heads" (
	"shop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"seq" integer DEFAULT 0 NOT NULL,
	"sheet" integer DEFAULT 0 NOT NULL,
	"folded" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "job_heads_shop_id_job_id_pk" PRIMARY KEY("shop_id","job_id"),
	CONSTRAINT "job_heads_job_fk" FOREIGN KEY ("shop_id","job_id") REFERENCES "jobs"("shop_id","id") ON DELETE cascade
) WITH (fillfactor = 50);
--> statement-breakpoint
INSERT INTO "job_heads" ("shop_id", "job_id", "seq", "sheet", "folded")
SELECT j."shop_id", j."id", coalesce(max(e."seq"), 0), coalesce(max(e."seq") FILTER (WHERE e."kind" IN ('circuit', 'retraction')), 0),
	CASE WHEN j."search" = '' THEN 0 ELSE coalesce(max(e."seq"), 0) END
FROM "jobs" j LEFT JOIN "entries" e ON e."job_id" = j."id" GROUP BY j."shop_id", j."id", j."search";--> statement-breakpoint
CREATE INDEX "job_heads_behind" ON "job_heads" USING btree ("shop_id","job_id") WHERE folded < seq;--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "shop_id" uuid, ADD COLUMN "person_id" uuid, ADD COLUMN "imported" boolean DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE "entries" SET "shop_id" = "jobs"."shop_id" FROM "jobs" WHERE "jobs"."id" = "entries"."job_id";--> statement-breakpoint
-- Who signed with a name that one person of the shop has was that person.
UPDATE "entries" SET "person_id" = named."id" FROM (
	SELECT "shop_id", "name", min("id"::text)::uuid AS "id" FROM "people" GROUP BY "shop_id", "name" HAVING count(*) = 1
) named WHERE named."shop_id" = "entries"."shop_id" AND named."name" = "entries"."by";--> statement-breakpoint
ALTER TABLE "entries" ALTER COLUMN "shop_id" SET NOT NULL, DROP CONSTRAINT "entries_job_seq", DROP CONSTRAINT "entries_pkey",
	ADD CONSTRAINT "entries_shop_id_job_id_seq_pk" PRIMARY KEY("shop_id","job_id","seq"), ADD CONSTRAINT "entries_id" UNIQUE("shop_id","id"),
	ADD CONSTRAINT "entries_head_fk" FOREIGN KEY ("shop_id","job_id") REFERENCES "job_heads"("shop_id","job_id") ON DELETE cascade;--> statement-breakpoint
ALTER TABLE "photos" ADD COLUMN "shop_id" uuid, ADD COLUMN "received_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
UPDATE "photos" SET "shop_id" = "jobs"."shop_id" FROM "jobs" WHERE "jobs"."id" = "photos"."job_id";--> statement-breakpoint
ALTER TABLE "photos" ALTER COLUMN "shop_id" SET NOT NULL, DROP CONSTRAINT "photos_pkey",
	ADD CONSTRAINT "photos_shop_id_job_id_id_pk" PRIMARY KEY("shop_id","job_id","id"),
	ADD CONSTRAINT "photos_job_fk" FOREIGN KEY ("shop_id","job_id") REFERENCES "jobs"("shop_id","id") ON DELETE cascade;--> statement-breakpoint
ALTER TABLE "recordings" ADD COLUMN "shop_id" uuid;--> statement-breakpoint
UPDATE "recordings" SET "shop_id" = "jobs"."shop_id" FROM "jobs" WHERE "jobs"."id" = "recordings"."job_id";--> statement-breakpoint
ALTER TABLE "recordings" ALTER COLUMN "shop_id" SET NOT NULL, DROP CONSTRAINT "recordings_pkey",
	ADD CONSTRAINT "recordings_shop_id_job_id_id_pk" PRIMARY KEY("shop_id","job_id","id"),
	ADD CONSTRAINT "recordings_job_fk" FOREIGN KEY ("shop_id","job_id") REFERENCES "jobs"("shop_id","id") ON DELETE cascade;--> statement-breakpoint
-- Call-outs are of the moment: those shown now are put up again by their benches.
DROP TABLE "callouts";--> statement-breakpoint
CREATE TABLE "callouts" (
	"code" text PRIMARY KEY NOT NULL,
	"shop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"state" jsonb,
	"expires_at" timestamp with time zone NOT NULL,
	CONSTRAINT "callouts_job_fk" FOREIGN KEY ("shop_id","job_id") REFERENCES "jobs"("shop_id","id") ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX "callouts_job" ON "callouts" USING btree ("shop_id","job_id");--> statement-breakpoint
-- Adds entries to a job in one trip: lock, numbers, insert. An entry that is there already keeps its number.
--   p_viewer  a trainee, who writes in jobs assigned to him only; null for everybody else
--   p_sheet   the entry up to which the circuits are known to whoever judged the readings; null where none is judged by them
-- Gives nothing where there is no such job. FX409: the circuits were edited meanwhile. FX400: an id belongs to another job (DETAIL says which).
CREATE FUNCTION append_entries(p_shop uuid, p_viewer uuid, p_job uuid, p_sheet integer, p_person uuid, p_imported boolean, p_entries jsonb)
RETURNS TABLE (entry uuid, number integer, added boolean) LANGUAGE plpgsql AS $$
DECLARE
	head job_heads%ROWTYPE;
	latest integer;
	edited integer;
	sent jsonb;
	known entries%ROWTYPE;
BEGIN
	IF p_viewer IS NOT NULL AND NOT EXISTS (SELECT 1 FROM jobs j WHERE j.shop_id = p_shop AND j.id = p_job AND j.assignee_id = p_viewer) THEN
		RETURN;
	END IF;
	SELECT * INTO head FROM job_heads h WHERE h.shop_id = p_shop AND h.job_id = p_job FOR UPDATE;
	IF NOT FOUND THEN
		RETURN;
	END IF;
	IF p_sheet IS NOT NULL AND head.sheet <> p_sheet THEN
		RAISE EXCEPTION 'the circuits were edited' USING ERRCODE = 'FX409';
	END IF;
	latest := head.seq;
	edited := head.sheet;
	FOR sent IN SELECT value FROM jsonb_array_elements(p_entries) LOOP
		entry := (sent ->> 'id')::uuid;
		INSERT INTO entries (shop_id, job_id, seq, id, at, "by", person_id, imported, kind, body)
			VALUES (p_shop, p_job, latest + 1, entry, (sent ->> 'at')::timestamptz, sent ->> 'by', p_person, p_imported, sent ->> 'kind', sent -> 'body')
			ON CONFLICT ON CONSTRAINT entries_id DO NOTHING;
		added := FOUND;
		IF added THEN
			latest := latest + 1;
			number := latest;
			IF sent ->> 'kind' IN ('circuit', 'retraction') THEN
				edited := latest;
			END IF;
		ELSE
			SELECT * INTO known FROM entries e WHERE e.shop_id = p_shop AND e.id = entry;
			IF known.job_id <> p_job THEN
				RAISE EXCEPTION 'an id belongs to another job' USING ERRCODE = 'FX400', DETAIL = entry::text;
			END IF;
			number := known.seq;
		END IF;
		RETURN NEXT;
	END LOOP;
	IF latest > head.seq THEN
		UPDATE job_heads h SET seq = latest, sheet = edited WHERE h.shop_id = p_shop AND h.job_id = p_job;
	END IF;
END $$;
