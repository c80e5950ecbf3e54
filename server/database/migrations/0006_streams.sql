-- What loggers send: a stream says what its channels are, and its samples are kept one row each.
CREATE TABLE streams (
  id         text PRIMARY KEY CHECK (id ~ '^[a-z0-9][a-z0-9-]{0,63}$'),
  created_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz,
  job_id     text REFERENCES jobs (id),
  -- SHA-256 of the token that may send to it
  token_hash text NOT NULL,
  document   jsonb NOT NULL
);
CREATE INDEX streams_of_job ON streams (job_id);

-- A sample is known by its number at the logger: sent twice it is kept once. The arrival is the order they came in.
CREATE TABLE samples (
  stream_id text NOT NULL REFERENCES streams (id),
  n         bigint NOT NULL CHECK (n >= 0),
  arrival   bigint GENERATED ALWAYS AS IDENTITY,
  at        double precision NOT NULL,
  "values"  double precision[] NOT NULL,
  PRIMARY KEY (stream_id, n)
);
CREATE INDEX samples_in_time ON samples (stream_id, at);
CREATE INDEX samples_in_order ON samples (stream_id, arrival);
