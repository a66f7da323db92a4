-- A workbook, version 1. Times of the clock are ISO 8601 in UTC, lengths of time are seconds.
CREATE TABLE vehicle (
  id      INTEGER PRIMARY KEY,
  name    TEXT NOT NULL,
  created TEXT NOT NULL
);

-- Every sheet but a vehicle's first follows exactly one other, and nothing follows twice: an unbroken chain.
CREATE TABLE build_sheet (
  id       INTEGER PRIMARY KEY,
  vehicle  INTEGER NOT NULL REFERENCES vehicle (id),
  previous INTEGER UNIQUE REFERENCES build_sheet (id),
  json     TEXT NOT NULL,
  created  TEXT NOT NULL
);
CREATE UNIQUE INDEX build_sheet_first ON build_sheet (vehicle) WHERE previous IS NULL;
CREATE TRIGGER build_sheet_stays BEFORE UPDATE ON build_sheet
BEGIN
  SELECT RAISE(ABORT, 'a build sheet is never changed: add a version');
END;

-- The file as it was given, byte for byte, packed in parts.
CREATE TABLE raw_file (
  id     INTEGER PRIMARY KEY,
  sha256 TEXT NOT NULL UNIQUE,
  name   TEXT NOT NULL,
  size   INTEGER NOT NULL
);
CREATE TABLE raw_part (
  raw_file INTEGER NOT NULL REFERENCES raw_file (id),
  part     INTEGER NOT NULL,
  packed   BLOB NOT NULL,
  PRIMARY KEY (raw_file, part)
);

CREATE TABLE run (
  id            INTEGER PRIMARY KEY,
  vehicle       INTEGER NOT NULL REFERENCES vehicle (id),
  build_sheet   INTEGER NOT NULL REFERENCES build_sheet (id),
  raw_file      INTEGER REFERENCES raw_file (id),
  name          TEXT NOT NULL,
  imported      TEXT NOT NULL,
  samples       INTEGER NOT NULL,
  duration      REAL NOT NULL,
  start_clock   REAL,
  header_line   INTEGER NOT NULL,
  plan          TEXT NOT NULL,
  preamble      TEXT NOT NULL,
  problems      TEXT NOT NULL,
  problem_count INTEGER NOT NULL,
  deleted       INTEGER NOT NULL DEFAULT 0
);
CREATE TABLE chunk (
  run     INTEGER NOT NULL REFERENCES run (id),
  channel TEXT NOT NULL,
  part    INTEGER NOT NULL,
  packed  BLOB NOT NULL,
  PRIMARY KEY (run, channel, part)
);
CREATE TABLE mark (
  id   INTEGER PRIMARY KEY,
  run  INTEGER NOT NULL REFERENCES run (id),
  time REAL NOT NULL,
  text TEXT NOT NULL
);
CREATE TABLE excluded (
  id      INTEGER PRIMARY KEY,
  run     INTEGER NOT NULL REFERENCES run (id),
  from_s  REAL NOT NULL,
  to_s    REAL NOT NULL,
  reason  TEXT NOT NULL,
  CHECK (to_s > from_s)
);
CREATE TABLE note (
  id      INTEGER PRIMARY KEY,
  vehicle INTEGER NOT NULL REFERENCES vehicle (id),
  run     INTEGER REFERENCES run (id),
  text    TEXT NOT NULL,
  created TEXT NOT NULL
);
-- What was looked for and not found on the car as it was driven.
CREATE TABLE looked_for (
  id      INTEGER PRIMARY KEY,
  run     INTEGER NOT NULL REFERENCES run (id),
  cause   TEXT NOT NULL,
  created TEXT NOT NULL,
  UNIQUE (run, cause)
);
CREATE TABLE advice (
  id       INTEGER PRIMARY KEY,
  run      INTEGER NOT NULL REFERENCES run (id),
  strategy TEXT NOT NULL,
  json     TEXT NOT NULL,
  created  TEXT NOT NULL
);
CREATE TABLE profile (
  signature TEXT PRIMARY KEY,
  json      TEXT NOT NULL,
  used      TEXT NOT NULL
);
CREATE INDEX run_vehicle ON run (vehicle);
CREATE INDEX mark_run ON mark (run);
CREATE INDEX excluded_run ON excluded (run);
CREATE INDEX advice_run ON advice (run);
PRAGMA application_id = 0x4e617269;
PRAGMA user_version = 1;
