-- How many samples a stream has: counted as they come and go, not anew whenever somebody asks.
ALTER TABLE streams ADD COLUMN sample_count integer NOT NULL DEFAULT 0;
UPDATE streams s SET sample_count = (SELECT count(*) FROM samples WHERE stream_id = s.id);

CREATE FUNCTION count_samples() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE streams s SET sample_count = sample_count + CASE TG_OP WHEN 'INSERT' THEN c.many ELSE -c.many END
    FROM (SELECT stream_id, count(*)::int AS many FROM changed GROUP BY stream_id) AS c
   WHERE s.id = c.stream_id;
  RETURN NULL;
END
$$;
CREATE TRIGGER count_added AFTER INSERT ON samples
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_samples();
CREATE TRIGGER count_gone AFTER DELETE ON samples
  REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_samples();

-- No list reads it.
DROP INDEX IF EXISTS jobs_newest;
