-- What was saved by day: counts, never texts. A snippet that is gone keeps its counts.
CREATE TABLE saving (
    day TEXT NOT NULL,
    snippet_id INTEGER NOT NULL,
    app TEXT NOT NULL,
    expansions INTEGER NOT NULL,
    taken_back INTEGER NOT NULL,
    keys INTEGER NOT NULL,
    characters INTEGER NOT NULL,
    fields INTEGER NOT NULL,
    PRIMARY KEY (day, snippet_id, app)
) WITHOUT ROWID;

-- How fast was typed, by day.
CREATE TABLE typing_pace (
    day TEXT PRIMARY KEY,
    keys INTEGER NOT NULL,
    milliseconds INTEGER NOT NULL
) WITHOUT ROWID;

-- Uses that fade: each counts half as much after a week.
ALTER TABLE firing_record ADD COLUMN weight REAL NOT NULL DEFAULT 0;

UPDATE firing_record SET weight = min(fired, 4);
