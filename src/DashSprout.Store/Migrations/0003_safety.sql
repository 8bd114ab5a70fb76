CREATE TABLE ignored_overlap (
    kind TEXT NOT NULL,
    winner_snippet_id INTEGER NOT NULL,
    winner_trigger TEXT NOT NULL,
    loser_snippet_id INTEGER NOT NULL,
    loser_trigger TEXT NOT NULL,
    PRIMARY KEY (kind, winner_snippet_id, winner_trigger, loser_snippet_id, loser_trigger)
) WITHOUT ROWID;

CREATE TABLE firing_record (
    snippet_id INTEGER NOT NULL REFERENCES snippet (id) ON DELETE CASCADE,
    trigger_text TEXT NOT NULL,
    fired INTEGER NOT NULL DEFAULT 0,
    taken_back INTEGER NOT NULL DEFAULT 0,
    last_at TEXT NOT NULL,
    PRIMARY KEY (snippet_id, trigger_text)
) WITHOUT ROWID;

CREATE TABLE word_list (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    words INTEGER NOT NULL,
    csv TEXT NOT NULL
);
