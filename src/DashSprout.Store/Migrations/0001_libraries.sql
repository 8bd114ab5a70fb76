CREATE TABLE library (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    name_key TEXT NOT NULL,
    position INTEGER NOT NULL,
    enabled INTEGER NOT NULL DEFAULT 1,
    closing_keys TEXT NULL,
    caps_lock_shouts INTEGER NOT NULL DEFAULT 0,
    backspace_takes_back INTEGER NOT NULL DEFAULT 0,
    version INTEGER NOT NULL DEFAULT 1,
    deleted_at TEXT NULL
);

CREATE TABLE folder (
    id INTEGER PRIMARY KEY,
    library_id INTEGER NOT NULL REFERENCES library (id) ON DELETE CASCADE,
    parent_id INTEGER NULL REFERENCES folder (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    name_key TEXT NOT NULL,
    position INTEGER NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    deleted_at TEXT NULL
);

CREATE INDEX folder_by_place ON folder (library_id, parent_id, position);

CREATE TABLE snippet (
    id INTEGER PRIMARY KEY,
    library_id INTEGER NOT NULL REFERENCES library (id) ON DELETE CASCADE,
    folder_id INTEGER NULL REFERENCES folder (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    name_key TEXT NOT NULL,
    position INTEGER NOT NULL,
    enabled INTEGER NOT NULL DEFAULT 1,
    note TEXT NOT NULL DEFAULT '',
    private INTEGER NOT NULL DEFAULT 0,
    delivery TEXT NOT NULL DEFAULT 'automatic',
    leave_on_clipboard INTEGER NOT NULL DEFAULT 0,
    body_kind TEXT NOT NULL CHECK (body_kind IN ('plain', 'html')),
    body TEXT NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    deleted_at TEXT NULL
);

CREATE INDEX snippet_by_place ON snippet (library_id, folder_id, position);

CREATE INDEX snippet_by_name ON snippet (library_id, folder_id, name_key);

CREATE TABLE trigger_rule (
    snippet_id INTEGER NOT NULL REFERENCES snippet (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    kind TEXT NOT NULL CHECK (kind IN ('abbreviation', 'pattern', 'hotkey')),
    text TEXT NOT NULL,
    timing TEXT NULL,
    left_edge TEXT NULL,
    letter_case TEXT NULL,
    keep_closing_key INTEGER NULL,
    closing_keys TEXT NULL,
    gives_way INTEGER NULL,
    scope_mode TEXT NOT NULL DEFAULT 'everywhere',
    scope_apps TEXT NOT NULL DEFAULT '[]',
    PRIMARY KEY (snippet_id, position)
) WITHOUT ROWID;

CREATE TABLE setting (
    name TEXT PRIMARY KEY,
    value TEXT NOT NULL
) WITHOUT ROWID;
