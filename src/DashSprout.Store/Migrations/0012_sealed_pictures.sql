-- Pictures of private snippets are sealed; those that nothing shows go after some days of use.
ALTER TABLE media ADD COLUMN sealed INTEGER NOT NULL DEFAULT 0;
ALTER TABLE media ADD COLUMN added_at TEXT NOT NULL DEFAULT '';
