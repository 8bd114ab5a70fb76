-- How well abbreviations are known, and how the drills went by day.
CREATE TABLE drill_card (
    snippet_id INTEGER NOT NULL REFERENCES item (id) ON DELETE CASCADE,
    trigger_text TEXT NOT NULL,
    box INTEGER NOT NULL,
    due TEXT NOT NULL,
    known INTEGER NOT NULL,
    unknown INTEGER NOT NULL,
    PRIMARY KEY (snippet_id, trigger_text)
) WITHOUT ROWID;

CREATE TABLE drill_day (
    day TEXT PRIMARY KEY,
    known INTEGER NOT NULL,
    unknown INTEGER NOT NULL
) WITHOUT ROWID;
