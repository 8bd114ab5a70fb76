-- The words of a snippet without its markup; filled in by the program when it is missing.
ALTER TABLE snippet ADD COLUMN words TEXT NULL;

-- Whether the snippet came from a file: what it opens is shown before it is opened for the first time.
ALTER TABLE snippet ADD COLUMN from_file INTEGER NOT NULL DEFAULT 0;

CREATE TABLE confirmed_target (
    snippet_id INTEGER NOT NULL REFERENCES snippet (id) ON DELETE CASCADE,
    target TEXT NOT NULL,
    PRIMARY KEY (snippet_id, target)
) WITHOUT ROWID;

CREATE VIRTUAL TABLE snippet_text USING fts5 (name, words, content = 'snippet', content_rowid = 'id', tokenize = 'trigram');

CREATE TRIGGER snippet_text_added AFTER INSERT ON snippet BEGIN
    INSERT INTO snippet_text (rowid, name, words) VALUES (new.id, new.name, new.words);
END;

CREATE TRIGGER snippet_text_removed AFTER DELETE ON snippet BEGIN
    INSERT INTO snippet_text (snippet_text, rowid, name, words) VALUES ('delete', old.id, old.name, old.words);
END;

CREATE TRIGGER snippet_text_changed AFTER UPDATE OF name, words ON snippet BEGIN
    INSERT INTO snippet_text (snippet_text, rowid, name, words) VALUES ('delete', old.id, old.name, old.words);
    INSERT INTO snippet_text (rowid, name, words) VALUES (new.id, new.name, new.words);
END;

INSERT INTO snippet_text (snippet_text) VALUES ('rebuild');
