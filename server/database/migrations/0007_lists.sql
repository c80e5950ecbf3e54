-- What follows from a job may be worked out after it was saved: the revision its summary is of.
ALTER TABLE jobs ADD COLUMN summary_of integer;
UPDATE jobs SET summary_of = revision WHERE summary IS NOT NULL;
CREATE INDEX jobs_to_summarise ON jobs (updated_at) WHERE summary_of IS DISTINCT FROM revision;
CREATE INDEX jobs_newest ON jobs (updated_at DESC, id) WHERE deleted_at IS NULL;

-- What was measured on a job, beside it: a list of thousands reads no test.
ALTER TABLE jobs ADD COLUMN taken jsonb NOT NULL DEFAULT '{"readings": 0, "measured": null}';

CREATE FUNCTION take_stock(of_jobs text[]) RETURNS void LANGUAGE sql AS $$
  UPDATE jobs SET taken = jsonb_build_object('readings', coalesce(found.readings, 0), 'measured', found.measured)
    FROM unnest(of_jobs) AS touched(job_id) LEFT JOIN (
      SELECT t.job_id, count(*) AS readings,
             (array_agg(jsonb_build_object('acceptance', r.document #> '{judged,acceptance}',
                                           'flow', r.document #> '{judged,flow}')
                        ORDER BY r.document ->> 'takenAt' DESC)
               FILTER (WHERE r.document ? 'judged'
                 AND r.document #>> '{flow,method}' IS DISTINCT FROM 'shut'))[1] AS measured
        FROM readings r JOIN field_tests t ON t.id = r.test_id
       WHERE t.job_id = ANY (of_jobs) AND r.deleted_at IS NULL AND t.deleted_at IS NULL
       GROUP BY t.job_id
    ) found ON found.job_id = touched.job_id
   WHERE jobs.id = touched.job_id
$$;

CREATE FUNCTION readings_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM take_stock(ARRAY(SELECT DISTINCT t.job_id FROM changed c JOIN field_tests t ON t.id = c.test_id
                            WHERE t.job_id IS NOT NULL));
  RETURN NULL;
END
$$;
CREATE TRIGGER readings_added AFTER INSERT ON readings
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION readings_changed();
CREATE TRIGGER readings_changed AFTER UPDATE ON readings
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION readings_changed();

CREATE FUNCTION tests_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM take_stock(ARRAY(SELECT DISTINCT job_id FROM was WHERE job_id IS NOT NULL
                            UNION SELECT job_id FROM changed WHERE job_id IS NOT NULL));
  RETURN NULL;
END
$$;
CREATE TRIGGER tests_changed AFTER UPDATE ON field_tests
  REFERENCING OLD TABLE AS was NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION tests_changed();

SELECT take_stock(ARRAY(SELECT DISTINCT job_id FROM field_tests WHERE job_id IS NOT NULL));

-- Counts up whenever anything of a list changed, so that what was made of it can be kept until then.
CREATE TABLE changes (
  list  text PRIMARY KEY,
  count bigint NOT NULL DEFAULT 0
);
INSERT INTO changes (list) VALUES ('jobs'), ('pumps'), ('units'), ('firms');
CREATE FUNCTION list_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE changes SET count = count + 1 WHERE list = TG_TABLE_NAME;
  RETURN NULL;
END
$$;
CREATE TRIGGER list_changed AFTER INSERT OR UPDATE OR DELETE OR TRUNCATE ON jobs
  FOR EACH STATEMENT EXECUTE FUNCTION list_changed();
CREATE TRIGGER list_changed AFTER INSERT OR UPDATE OR DELETE OR TRUNCATE ON pumps
  FOR EACH STATEMENT EXECUTE FUNCTION list_changed();
CREATE TRIGGER list_changed AFTER INSERT OR UPDATE OR DELETE OR TRUNCATE ON units
  FOR EACH STATEMENT EXECUTE FUNCTION list_changed();
CREATE TRIGGER list_changed AFTER INSERT OR UPDATE OR DELETE OR TRUNCATE ON firms
  FOR EACH STATEMENT EXECUTE FUNCTION list_changed();
