-- A workbook, version 4: drives that are being recorded, line by line as a device sent them. A recording becomes a run
-- when it ends; what was cut short by a crash is found here when the file is opened next.
CREATE TABLE recording (
  id INTEGER PRIMARY KEY,
  build_sheet INTEGER NOT NULL REFERENCES build_sheet (id),
  name TEXT NOT NULL,
  plan TEXT,
  started TEXT NOT NULL
);
CREATE TABLE recorded (
  recording INTEGER NOT NULL REFERENCES recording (id),
  part INTEGER NOT NULL,
  lines TEXT NOT NULL,
  PRIMARY KEY (recording, part)
);

CREATE TRIGGER seal_recording_added AFTER INSERT ON recording BEGIN
  INSERT OR REPLACE INTO seal VALUES ('recording', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.build_sheet, NEW.name,
    NEW.plan, NEW.started));
END;
CREATE TRIGGER seal_recording_changed AFTER UPDATE ON recording BEGIN
  INSERT OR REPLACE INTO seal VALUES ('recording', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.build_sheet, NEW.name,
    NEW.plan, NEW.started));
END;
CREATE TRIGGER seal_recording_removed AFTER DELETE ON recording BEGIN
  DELETE FROM seal WHERE tab = 'recording' AND key = CAST(OLD.id AS TEXT);
END;

CREATE TRIGGER seal_recorded_added AFTER INSERT ON recorded BEGIN
  INSERT OR REPLACE INTO seal VALUES ('recorded', CAST(NEW.recording || '/' || NEW.part AS TEXT),
    row_sum(NEW.recording, NEW.part, NEW.lines));
END;
CREATE TRIGGER seal_recorded_changed AFTER UPDATE ON recorded BEGIN
  INSERT OR REPLACE INTO seal VALUES ('recorded', CAST(NEW.recording || '/' || NEW.part AS TEXT),
    row_sum(NEW.recording, NEW.part, NEW.lines));
END;
CREATE TRIGGER seal_recorded_removed AFTER DELETE ON recorded BEGIN
  DELETE FROM seal WHERE tab = 'recorded' AND key = CAST(OLD.recording || '/' || OLD.part AS TEXT);
END;

PRAGMA user_version = 4;
