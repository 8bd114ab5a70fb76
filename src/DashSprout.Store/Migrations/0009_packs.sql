-- Libraries that came from a pack, with the pack as it was taken then, compressed.
CREATE TABLE pack (
    library_id INTEGER PRIMARY KEY REFERENCES item (id) ON DELETE CASCADE,
    pack_id TEXT NOT NULL,
    contents BLOB NOT NULL
);

-- What each thing in such a library is known by in its pack.
CREATE TABLE pack_key (
    library_id INTEGER NOT NULL REFERENCES pack (library_id) ON DELETE CASCADE,
    item_id INTEGER NOT NULL,
    key TEXT NOT NULL,
    PRIMARY KEY (library_id, item_id)
) WITHOUT ROWID;
