-- A workbook, version 3: every row has a sum over what stands in it (CRC-32C, RFC 3720, over values with their types,
-- nariz.workbook.RowSum), so that a damaged disk is noticed before a wrong number is shown.
CREATE TABLE seal (
  tab TEXT NOT NULL,
  key TEXT NOT NULL,
  sum INTEGER NOT NULL,
  PRIMARY KEY (tab, key)
) WITHOUT ROWID;

CREATE TRIGGER seal_vehicle_added AFTER INSERT ON vehicle BEGIN
  INSERT OR REPLACE INTO seal VALUES ('vehicle', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.name, NEW.created));
END;
CREATE TRIGGER seal_vehicle_changed AFTER UPDATE ON vehicle BEGIN
  INSERT OR REPLACE INTO seal VALUES ('vehicle', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.name, NEW.created));
END;
CREATE TRIGGER seal_vehicle_removed AFTER DELETE ON vehicle BEGIN
  DELETE FROM seal WHERE tab = 'vehicle' AND key = CAST(OLD.id AS TEXT);
END;
INSERT INTO seal SELECT 'vehicle', CAST(id AS TEXT), row_sum(id, name, created) FROM vehicle;

CREATE TRIGGER seal_build_sheet_added AFTER INSERT ON build_sheet BEGIN
  INSERT OR REPLACE INTO seal VALUES ('build_sheet', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.vehicle,
    NEW.previous, NEW.json, NEW.created));
END;
CREATE TRIGGER seal_build_sheet_changed AFTER UPDATE ON build_sheet BEGIN
  INSERT OR REPLACE INTO seal VALUES ('build_sheet', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.vehicle,
    NEW.previous, NEW.json, NEW.created));
END;
CREATE TRIGGER seal_build_sheet_removed AFTER DELETE ON build_sheet BEGIN
  DELETE FROM seal WHERE tab = 'build_sheet' AND key = CAST(OLD.id AS TEXT);
END;
INSERT INTO seal SELECT 'build_sheet', CAST(id AS TEXT), row_sum(id, vehicle, previous, json,
    created) FROM build_sheet;

CREATE TRIGGER seal_raw_file_added AFTER INSERT ON raw_file BEGIN
  INSERT OR REPLACE INTO seal VALUES ('raw_file', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.sha256, NEW.name,
    NEW.size));
END;
CREATE TRIGGER seal_raw_file_changed AFTER UPDATE ON raw_file BEGIN
  INSERT OR REPLACE INTO seal VALUES ('raw_file', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.sha256, NEW.name,
    NEW.size));
END;
CREATE TRIGGER seal_raw_file_removed AFTER DELETE ON raw_file BEGIN
  DELETE FROM seal WHERE tab = 'raw_file' AND key = CAST(OLD.id AS TEXT);
END;
INSERT INTO seal SELECT 'raw_file', CAST(id AS TEXT), row_sum(id, sha256, name, size) FROM raw_file;

CREATE TRIGGER seal_raw_part_added AFTER INSERT ON raw_part BEGIN
  INSERT OR REPLACE INTO seal VALUES ('raw_part', CAST(NEW.raw_file || '/' || NEW.part AS TEXT),
    row_sum(NEW.raw_file, NEW.part, NEW.packed));
END;
CREATE TRIGGER seal_raw_part_changed AFTER UPDATE ON raw_part BEGIN
  INSERT OR REPLACE INTO seal VALUES ('raw_part', CAST(NEW.raw_file || '/' || NEW.part AS TEXT),
    row_sum(NEW.raw_file, NEW.part, NEW.packed));
END;
CREATE TRIGGER seal_raw_part_removed AFTER DELETE ON raw_part BEGIN
  DELETE FROM seal WHERE tab = 'raw_part' AND key = CAST(OLD.raw_file || '/' || OLD.part AS TEXT);
END;
INSERT INTO seal SELECT 'raw_part', CAST(raw_file || '/' || part AS TEXT), row_sum(raw_file, part,
    packed) FROM raw_part;

CREATE TRIGGER seal_run_added AFTER INSERT ON run BEGIN
  INSERT OR REPLACE INTO seal VALUES ('run', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.vehicle, NEW.build_sheet,
    NEW.raw_file, NEW.name, NEW.imported, NEW.samples, NEW.duration, NEW.start_clock, NEW.header_line, NEW.plan,
    NEW.preamble, NEW.problems, NEW.problem_count, NEW.deleted));
END;
CREATE TRIGGER seal_run_changed AFTER UPDATE ON run BEGIN
  INSERT OR REPLACE INTO seal VALUES ('run', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.vehicle, NEW.build_sheet,
    NEW.raw_file, NEW.name, NEW.imported, NEW.samples, NEW.duration, NEW.start_clock, NEW.header_line, NEW.plan,
    NEW.preamble, NEW.problems, NEW.problem_count, NEW.deleted));
END;
CREATE TRIGGER seal_run_removed AFTER DELETE ON run BEGIN
  DELETE FROM seal WHERE tab = 'run' AND key = CAST(OLD.id AS TEXT);
END;
INSERT INTO seal SELECT 'run', CAST(id AS TEXT), row_sum(id, vehicle, build_sheet, raw_file, name, imported,
    samples, duration, start_clock, header_line, plan, preamble, problems, problem_count, deleted) FROM run;

CREATE TRIGGER seal_chunk_added AFTER INSERT ON chunk BEGIN
  INSERT OR REPLACE INTO seal VALUES ('chunk', CAST(NEW.run || '/' || NEW.channel || '/' || NEW.part AS TEXT),
    row_sum(NEW.run, NEW.channel, NEW.part, NEW.packed));
END;
CREATE TRIGGER seal_chunk_changed AFTER UPDATE ON chunk BEGIN
  INSERT OR REPLACE INTO seal VALUES ('chunk', CAST(NEW.run || '/' || NEW.channel || '/' || NEW.part AS TEXT),
    row_sum(NEW.run, NEW.channel, NEW.part, NEW.packed));
END;
CREATE TRIGGER seal_chunk_removed AFTER DELETE ON chunk BEGIN
  DELETE FROM seal WHERE tab = 'chunk' AND key = CAST(OLD.run || '/' || OLD.channel || '/' || OLD.part AS TEXT);
END;
INSERT INTO seal SELECT 'chunk', CAST(run || '/' || channel || '/' || part AS TEXT), row_sum(run, channel, part,
    packed) FROM chunk;

CREATE TRIGGER seal_mark_added AFTER INSERT ON mark BEGIN
  INSERT OR REPLACE INTO seal VALUES ('mark', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.run, NEW.time, NEW.text));
END;
CREATE TRIGGER seal_mark_changed AFTER UPDATE ON mark BEGIN
  INSERT OR REPLACE INTO seal VALUES ('mark', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.run, NEW.time, NEW.text));
END;
CREATE TRIGGER seal_mark_removed AFTER DELETE ON mark BEGIN
  DELETE FROM seal WHERE tab = 'mark' AND key = CAST(OLD.id AS TEXT);
END;
INSERT INTO seal SELECT 'mark', CAST(id AS TEXT), row_sum(id, run, time, text) FROM mark;

CREATE TRIGGER seal_excluded_added AFTER INSERT ON excluded BEGIN
  INSERT OR REPLACE INTO seal VALUES ('excluded', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.run, NEW.from_s,
    NEW.to_s, NEW.reason));
END;
CREATE TRIGGER seal_excluded_changed AFTER UPDATE ON excluded BEGIN
  INSERT OR REPLACE INTO seal VALUES ('excluded', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.run, NEW.from_s,
    NEW.to_s, NEW.reason));
END;
CREATE TRIGGER seal_excluded_removed AFTER DELETE ON excluded BEGIN
  DELETE FROM seal WHERE tab = 'excluded' AND key = CAST(OLD.id AS TEXT);
END;
INSERT INTO seal SELECT 'excluded', CAST(id AS TEXT), row_sum(id, run, from_s, to_s, reason) FROM excluded;

CREATE TRIGGER seal_note_added AFTER INSERT ON note BEGIN
  INSERT OR REPLACE INTO seal VALUES ('note', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.vehicle, NEW.run, NEW.text,
    NEW.created, NEW.at_s));
END;
CREATE TRIGGER seal_note_changed AFTER UPDATE ON note BEGIN
  INSERT OR REPLACE INTO seal VALUES ('note', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.vehicle, NEW.run, NEW.text,
    NEW.created, NEW.at_s));
END;
CREATE TRIGGER seal_note_removed AFTER DELETE ON note BEGIN
  DELETE FROM seal WHERE tab = 'note' AND key = CAST(OLD.id AS TEXT);
END;
INSERT INTO seal SELECT 'note', CAST(id AS TEXT), row_sum(id, vehicle, run, text, created, at_s) FROM note;

CREATE TRIGGER seal_looked_for_added AFTER INSERT ON looked_for BEGIN
  INSERT OR REPLACE INTO seal VALUES ('looked_for', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.run, NEW.cause,
    NEW.created));
END;
CREATE TRIGGER seal_looked_for_changed AFTER UPDATE ON looked_for BEGIN
  INSERT OR REPLACE INTO seal VALUES ('looked_for', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.run, NEW.cause,
    NEW.created));
END;
CREATE TRIGGER seal_looked_for_removed AFTER DELETE ON looked_for BEGIN
  DELETE FROM seal WHERE tab = 'looked_for' AND key = CAST(OLD.id AS TEXT);
END;
INSERT INTO seal SELECT 'looked_for', CAST(id AS TEXT), row_sum(id, run, cause, created) FROM looked_for;

CREATE TRIGGER seal_advice_added AFTER INSERT ON advice BEGIN
  INSERT OR REPLACE INTO seal VALUES ('advice', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.run, NEW.strategy,
    NEW.json, NEW.created));
END;
CREATE TRIGGER seal_advice_changed AFTER UPDATE ON advice BEGIN
  INSERT OR REPLACE INTO seal VALUES ('advice', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.run, NEW.strategy,
    NEW.json, NEW.created));
END;
CREATE TRIGGER seal_advice_removed AFTER DELETE ON advice BEGIN
  DELETE FROM seal WHERE tab = 'advice' AND key = CAST(OLD.id AS TEXT);
END;
INSERT INTO seal SELECT 'advice', CAST(id AS TEXT), row_sum(id, run, strategy, json, created) FROM advice;

CREATE TRIGGER seal_profile_added AFTER INSERT ON profile BEGIN
  INSERT OR REPLACE INTO seal VALUES ('profile', CAST(NEW.signature AS TEXT), row_sum(NEW.signature, NEW.json,
    NEW.used));
END;
CREATE TRIGGER seal_profile_changed AFTER UPDATE ON profile BEGIN
  INSERT OR REPLACE INTO seal VALUES ('profile', CAST(NEW.signature AS TEXT), row_sum(NEW.signature, NEW.json,
    NEW.used));
END;
CREATE TRIGGER seal_profile_removed AFTER DELETE ON profile BEGIN
  DELETE FROM seal WHERE tab = 'profile' AND key = CAST(OLD.signature AS TEXT);
END;
INSERT INTO seal SELECT 'profile', CAST(signature AS TEXT), row_sum(signature, json, used) FROM profile;

CREATE TRIGGER seal_plan_added AFTER INSERT ON plan BEGIN
  INSERT OR REPLACE INTO seal VALUES ('plan', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.vehicle, NEW.build_sheet,
    NEW.name, NEW.created));
END;
CREATE TRIGGER seal_plan_changed AFTER UPDATE ON plan BEGIN
  INSERT OR REPLACE INTO seal VALUES ('plan', CAST(NEW.id AS TEXT), row_sum(NEW.id, NEW.vehicle, NEW.build_sheet,
    NEW.name, NEW.created));
END;
CREATE TRIGGER seal_plan_removed AFTER DELETE ON plan BEGIN
  DELETE FROM seal WHERE tab = 'plan' AND key = CAST(OLD.id AS TEXT);
END;
INSERT INTO seal SELECT 'plan', CAST(id AS TEXT), row_sum(id, vehicle, build_sheet, name, created) FROM plan;

CREATE TRIGGER seal_planned_added AFTER INSERT ON planned BEGIN
  INSERT OR REPLACE INTO seal VALUES ('planned', CAST(NEW.plan || '/' || NEW.part || '/' || NEW.side AS TEXT),
    row_sum(NEW.plan, NEW.part, NEW.side, NEW.size));
END;
CREATE TRIGGER seal_planned_changed AFTER UPDATE ON planned BEGIN
  INSERT OR REPLACE INTO seal VALUES ('planned', CAST(NEW.plan || '/' || NEW.part || '/' || NEW.side AS TEXT),
    row_sum(NEW.plan, NEW.part, NEW.side, NEW.size));
END;
CREATE TRIGGER seal_planned_removed AFTER DELETE ON planned BEGIN
  DELETE FROM seal WHERE tab = 'planned' AND key = CAST(OLD.plan || '/' || OLD.part || '/' || OLD.side AS TEXT);
END;
INSERT INTO seal SELECT 'planned', CAST(plan || '/' || part || '/' || side AS TEXT), row_sum(plan, part, side,
    size) FROM planned;
PRAGMA user_version = 3;
