-- Libraries that are mirrored in a folder. What is undecided or decided is a list of conflicts as JSON.
CREATE TABLE mirror (
    library_id INTEGER PRIMARY KEY REFERENCES item (id) ON DELETE CASCADE,
    folder TEXT NOT NULL,
    file TEXT NOT NULL,
    key TEXT NOT NULL,
    pocket INTEGER NOT NULL DEFAULT 0,
    undecided TEXT NOT NULL DEFAULT '[]',
    decided TEXT NOT NULL DEFAULT '[]'
);

-- What each thing in a mirrored library is known by on all machines.
CREATE TABLE mirror_key (
    library_id INTEGER NOT NULL REFERENCES mirror (library_id) ON DELETE CASCADE,
    item_id INTEGER NOT NULL,
    key TEXT NOT NULL,
    PRIMARY KEY (library_id, item_id)
) WITHOUT ROWID;

-- The states that are remembered: mirror files as they were, compressed and sealed.
CREATE TABLE mirror_state (
    id INTEGER PRIMARY KEY,
    library_id INTEGER NOT NULL REFERENCES mirror (library_id) ON DELETE CASCADE,
    states TEXT NOT NULL,
    contents BLOB NOT NULL
);

CREATE INDEX mirror_state_by_library ON mirror_state (library_id);
