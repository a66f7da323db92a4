-- A workbook, version 2: notes may name a moment of their run, and parts one means to fit are kept as plans.
ALTER TABLE note ADD COLUMN at_s REAL;

-- What is made of a plan is the next version of the build sheet; made changes are read from that chain.
CREATE TABLE plan (
  id          INTEGER PRIMARY KEY,
  vehicle     INTEGER NOT NULL REFERENCES vehicle (id),
  build_sheet INTEGER NOT NULL REFERENCES build_sheet (id),
  name        TEXT NOT NULL,
  created     TEXT NOT NULL
);
CREATE TABLE planned (
  plan INTEGER NOT NULL REFERENCES plan (id) ON DELETE CASCADE,
  part TEXT NOT NULL,
  side TEXT NOT NULL,
  size REAL NOT NULL,
  PRIMARY KEY (plan, part, side)
);
CREATE INDEX note_run ON note (run);
PRAGMA user_version = 2;
