-- Jobs, pumps, field tests and readings as versioned documents.
-- A row is never removed by the application: deleting sets deleted_at, so that it can be undone.

CREATE TABLE jobs (
  id         text PRIMARY KEY CHECK (id ~ '^[a-z0-9][a-z0-9-]{0,63}$'),
  revision   integer NOT NULL CHECK (revision > 0),
  updated_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz,
  document   jsonb NOT NULL CHECK (document ->> 'format' = 'upright-gusher/job')
);

CREATE TABLE pumps (
  id         text PRIMARY KEY CHECK (id ~ '^[a-z0-9][a-z0-9-]{0,63}$'),
  revision   integer NOT NULL CHECK (revision > 0),
  updated_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz,
  document   jsonb NOT NULL CHECK (
    document ->> 'format' = 'upright-gusher/pump' AND document ->> 'id' = id
  )
);

CREATE TABLE field_tests (
  id         text PRIMARY KEY CHECK (id ~ '^[a-z0-9][a-z0-9-]{0,63}$'),
  job_id     text NOT NULL REFERENCES jobs (id),
  revision   integer NOT NULL CHECK (revision > 0),
  updated_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz,
  document   jsonb NOT NULL CHECK (document ->> 'format' = 'upright-gusher/field-test')
);
CREATE INDEX field_tests_of_job ON field_tests (job_id);

CREATE TABLE readings (
  id         text PRIMARY KEY CHECK (id ~ '^[a-z0-9][a-z0-9-]{0,63}$'),
  test_id    text NOT NULL REFERENCES field_tests (id),
  revision   integer NOT NULL CHECK (revision > 0),
  updated_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz,
  document   jsonb NOT NULL CHECK (jsonb_typeof(document) = 'object')
);
CREATE INDEX readings_of_test ON readings (test_id);
