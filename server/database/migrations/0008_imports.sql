-- What is being taken in, in pieces: it waits here until all of it came, and is then taken in at once or not at all.
CREATE TABLE imports (
  id       text PRIMARY KEY CHECK (id ~ '^[a-z0-9][a-z0-9-]{0,63}$'),
  begun_at timestamptz NOT NULL DEFAULT now(),
  state    text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'done', 'cancelled')),
  outcome  jsonb
);
CREATE TABLE import_rows (
  import_id  text NOT NULL REFERENCES imports (id) ON DELETE CASCADE,
  n          integer NOT NULL CHECK (n >= 0),
  collection text NOT NULL,
  id         text NOT NULL,
  document   jsonb NOT NULL,
  PRIMARY KEY (import_id, n)
);
