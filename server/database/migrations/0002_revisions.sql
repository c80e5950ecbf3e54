-- Every state a document was ever saved in. Rows are only added: history, conflict and audit stand on them.
CREATE TABLE revisions (
  collection text NOT NULL,
  id         text NOT NULL,
  revision   integer NOT NULL CHECK (revision > 0),
  saved_at   timestamptz NOT NULL DEFAULT now(),
  document   jsonb NOT NULL,
  PRIMARY KEY (collection, id, revision)
);

CREATE FUNCTION revisions_are_kept() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'revisions are only added';
END
$$;
CREATE TRIGGER revisions_are_kept BEFORE UPDATE OR DELETE ON revisions
  FOR EACH STATEMENT EXECUTE FUNCTION revisions_are_kept();

INSERT INTO revisions (collection, id, revision, saved_at, document)
  SELECT 'jobs', id, revision, updated_at, document FROM jobs
  UNION ALL SELECT 'pumps', id, revision, updated_at, document FROM pumps
  UNION ALL SELECT 'tests', id, revision, updated_at, document FROM field_tests
  UNION ALL SELECT 'readings', id, revision, updated_at, document FROM readings;

-- What a list shows of a document, made by the application when it saves; absent until then.
ALTER TABLE jobs ADD COLUMN summary jsonb;

-- Real pumps with a serial number, and what the firm owns and pays.
CREATE TABLE units (
  id         text PRIMARY KEY CHECK (id ~ '^[a-z0-9][a-z0-9-]{0,63}$'),
  revision   integer NOT NULL CHECK (revision > 0),
  updated_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz,
  document   jsonb NOT NULL CHECK (document ->> 'format' = 'upright-gusher/unit')
);
CREATE TABLE firms (
  id         text PRIMARY KEY CHECK (id ~ '^[a-z0-9][a-z0-9-]{0,63}$'),
  revision   integer NOT NULL CHECK (revision > 0),
  updated_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz,
  document   jsonb NOT NULL CHECK (document ->> 'format' = 'upright-gusher/firm')
);
