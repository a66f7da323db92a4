ALTER TABLE vehicle ADD COLUMN colour TEXT NOT NULL DEFAULT 'unknown';
CREATE TABLE paint (id INTEGER PRIMARY KEY, vehicle INTEGER REFERENCES vehicle (id));
PRAGMA user_version = 5;
