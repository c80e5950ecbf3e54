-- Which pictures a document names, in each of its revisions: one that none names is nobody's.
CREATE TABLE pictures_named (
  collection text NOT NULL,
  id         text NOT NULL,
  revision   integer NOT NULL,
  attachment text NOT NULL,
  FOREIGN KEY (collection, id, revision) REFERENCES revisions ON DELETE CASCADE
);
CREATE INDEX pictures_named_by ON pictures_named (attachment);
CREATE INDEX pictures_named_in ON pictures_named (collection, id, revision);

CREATE FUNCTION pictures_in(document jsonb) RETURNS SETOF text LANGUAGE sql IMMUTABLE AS $$
  SELECT DISTINCT found #>> '{}'
    FROM jsonb_path_query(document, 'lax $.**.attachments[*]') AS found WHERE jsonb_typeof(found) = 'string'
  UNION
  SELECT DISTINCT found #>> '{}'
    FROM jsonb_path_query(document, 'lax $.**.picture') AS found WHERE jsonb_typeof(found) = 'string'
$$;
CREATE FUNCTION name_pictures() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO pictures_named
    SELECT a.collection, a.id, a.revision, named FROM added a, pictures_in(a.document) AS named
     WHERE a.collection <> 'attachments';
  RETURN NULL;
END
$$;
INSERT INTO pictures_named
  SELECT r.collection, r.id, r.revision, named FROM revisions r, pictures_in(r.document) AS named
   WHERE r.collection <> 'attachments';
CREATE TRIGGER name_pictures AFTER INSERT ON revisions
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION name_pictures();

-- Revisions are still never changed; one goes only where a rule says so, in a transaction that says it is that.
CREATE OR REPLACE FUNCTION revisions_are_kept() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' AND current_setting('upright_gusher.thinning', true) = 'on' THEN
    RETURN NULL;
  END IF;
  RAISE EXCEPTION 'revisions are only added';
END
$$;
CREATE INDEX revisions_in_time ON revisions (saved_at);
