-- Pictures and pages: what each of them is.
CREATE TABLE attachments (
  id         text PRIMARY KEY CHECK (id ~ '^[a-z0-9][a-z0-9-]{0,63}$'),
  revision   integer NOT NULL CHECK (revision > 0),
  updated_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz,
  document   jsonb NOT NULL CHECK (document ->> 'format' = 'upright-gusher/attachment')
);

-- A pump may be measured on a stand in the shop, where there is no job.
ALTER TABLE field_tests ALTER COLUMN job_id DROP NOT NULL;
