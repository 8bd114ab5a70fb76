CREATE TABLE turn (
    part TEXT PRIMARY KEY,
    taken INTEGER NOT NULL
) WITHOUT ROWID;

CREATE TABLE live_source (
    source TEXT PRIMARY KEY
) WITHOUT ROWID;

CREATE TABLE recent_answer (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    field TEXT NOT NULL,
    answer TEXT NOT NULL,
    UNIQUE (field, answer)
);
