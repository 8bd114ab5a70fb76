-- Libraries, folders and snippets in one table, each with its document as a library file would write it. Snippets keep their ids.
CREATE TABLE item (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    kind TEXT NOT NULL CHECK (kind IN ('library', 'folder', 'snippet')),
    parent_id INTEGER NULL REFERENCES item (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    document TEXT NOT NULL,
    saved_at TEXT NOT NULL,
    from_file INTEGER NOT NULL DEFAULT 0,
    deleted_at TEXT NULL
);

CREATE TEMP TABLE shift AS SELECT
    (SELECT coalesce(max(id), 0) FROM snippet) AS of_library,
    (SELECT coalesce(max(id), 0) FROM snippet) + (SELECT coalesce(max(id), 0) FROM library) AS of_folder;

INSERT INTO item (id, kind, parent_id, position, document, saved_at, deleted_at)
SELECT id + of_library, 'library', NULL, (position + 1) * 1048576,
    json_object('name', name, 'enabled', json(iif(enabled, 'true', 'false')),
        'closingKeys', json(iif(json_valid(closing_keys), closing_keys, 'null')),
        'capsLockShouts', json(iif(caps_lock_shouts, 'true', 'false')), 'backspaceTakesBack', json(iif(backspace_takes_back, 'true', 'false'))),
    strftime('%Y-%m-%dT%H:%M:%fZ'), deleted_at
FROM library, shift;

-- A folder may come before the one it lies in.
PRAGMA defer_foreign_keys = ON;

INSERT INTO item (id, kind, parent_id, position, document, saved_at, deleted_at)
SELECT id + of_folder, 'folder', coalesce(parent_id + of_folder, library_id + of_library), (position + 1) * 1048576,
    json_object('name', name), strftime('%Y-%m-%dT%H:%M:%fZ'), deleted_at
FROM folder, shift;

INSERT INTO item (id, kind, parent_id, position, version, document, saved_at, from_file, deleted_at)
SELECT id, 'snippet', coalesce(folder_id + of_folder, library_id + of_library), (position + 1) * 1048576, version,
    json_object('name', name, 'enabled', json(iif(enabled, 'true', 'false')), 'note', note, 'private', json(iif(private, 'true', 'false')),
        'delivery', delivery, 'leaveOnClipboard', json(iif(leave_on_clipboard, 'true', 'false')),
        'body', iif(body_kind = 'html', body, NULL), 'text', iif(body_kind = 'html', NULL, body),
        'triggers', json((SELECT json_group_array(json_object(
            'kind', kind, 'text', text, 'timing', timing, 'leftEdge', left_edge, 'case', letter_case,
            'keepClosingKey', json(CASE keep_closing_key WHEN 1 THEN 'true' WHEN 0 THEN 'false' ELSE 'null' END),
            'closingKeys', json(iif(json_valid(rule.closing_keys), rule.closing_keys, 'null')),
            'givesWay', json(CASE gives_way WHEN 1 THEN 'true' WHEN 0 THEN 'false' ELSE 'null' END),
            'scope', json_object('mode', scope_mode, 'apps', json(iif(json_valid(scope_apps), scope_apps, '[]')))))
            FROM (SELECT * FROM trigger_rule WHERE snippet_id = snippet.id ORDER BY position) rule))),
    strftime('%Y-%m-%dT%H:%M:%fZ'), from_file, deleted_at
FROM snippet, shift;

CREATE INDEX item_by_parent ON item (parent_id);

CREATE INDEX item_in_bin ON item (deleted_at) WHERE deleted_at IS NOT NULL;

-- What refers to snippets now refers to items.
CREATE TABLE firing (
    snippet_id INTEGER NOT NULL REFERENCES item (id) ON DELETE CASCADE,
    trigger_text TEXT NOT NULL,
    fired INTEGER NOT NULL DEFAULT 0,
    taken_back INTEGER NOT NULL DEFAULT 0,
    last_at TEXT NOT NULL,
    PRIMARY KEY (snippet_id, trigger_text)
) WITHOUT ROWID;

INSERT INTO firing SELECT * FROM firing_record;

CREATE TABLE confirmed (
    snippet_id INTEGER NOT NULL REFERENCES item (id) ON DELETE CASCADE,
    target TEXT NOT NULL,
    PRIMARY KEY (snippet_id, target)
) WITHOUT ROWID;

INSERT INTO confirmed SELECT * FROM confirmed_target;

DROP TABLE firing_record;
DROP TABLE confirmed_target;
DROP TABLE snippet_text;
DROP TABLE trigger_rule;
DROP TABLE snippet;
DROP TABLE folder;
DROP TABLE library;
DROP TABLE shift;
ALTER TABLE firing RENAME TO firing_record;
ALTER TABLE confirmed RENAME TO confirmed_target;

-- Names and words of the snippets; filled in by the program when it is empty.
CREATE VIRTUAL TABLE snippet_text USING fts5 (name, words, content = '', contentless_delete = 1, tokenize = 'trigram');

-- Earlier versions of snippets.
CREATE TABLE snippet_version (
    item_id INTEGER NOT NULL REFERENCES item (id) ON DELETE CASCADE,
    version INTEGER NOT NULL,
    saved_at TEXT NOT NULL,
    document TEXT NOT NULL,
    UNIQUE (item_id, version)
);

-- What was done last, to undo it and do it again.
CREATE TABLE change (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    made_at TEXT NOT NULL,
    what TEXT NOT NULL,
    items TEXT NOT NULL,
    backup TEXT NULL,
    undone INTEGER NULL
);

-- The days on which the program was used: ages are counted in them, so that a clock gone wrong makes nothing old.
CREATE TABLE day_of_use (day TEXT PRIMARY KEY) WITHOUT ROWID;

-- Settings that belong together are kept as one.
INSERT INTO setting (name, value)
SELECT 'dates', json_group_object(substr(name, 7), iif(name = 'dates.weekend', json(CASE WHEN value = '' THEN '[]' ELSE '["' || replace(value, ' ', '","') || '"]' END), value))
FROM setting WHERE name LIKE 'dates.%' HAVING count(*) > 0;

INSERT INTO setting (name, value)
SELECT 'typing', json_group_object(CASE name WHEN 'engine.take-back' THEN 'takeBack' WHEN 'engine.take-back-chord' THEN 'takeBackChord' WHEN 'engine.hints' THEN 'hints'
    WHEN 'engine.finder-chord' THEN 'finderChord' WHEN 'engine.quick-add-chord' THEN 'quickAddChord' ELSE 'restChord' END,
    iif(name IN ('engine.take-back', 'engine.hints'), json(iif(value = 'false', 'false', 'true')), value))
FROM setting WHERE name IN ('engine.take-back', 'engine.take-back-chord', 'engine.hints', 'engine.finder-chord', 'engine.quick-add-chord', 'engine.rest-chord') HAVING count(*) > 0;

INSERT INTO setting (name, value)
SELECT 'rest', json_object('resting', json(iif(max(iif(name = 'engine.resting', value, '')) = 'true', 'true', 'false')),
    'until', nullif(max(iif(name = 'engine.resting-until', value, '')), ''),
    'apps', json(CASE max(iif(name = 'engine.resting-apps', value, '')) WHEN '' THEN '[]' ELSE '["' || replace(max(iif(name = 'engine.resting-apps', value, '')), ' ', '","') || '"]' END))
FROM setting WHERE name LIKE 'engine.resting%' HAVING count(*) > 0;

DELETE FROM setting WHERE name LIKE 'dates.%' OR name LIKE 'engine.%';
