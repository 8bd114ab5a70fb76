-- The chords of the program are one value, with those that could not be chosen before.
UPDATE setting SET value = json_remove(
    json_set(value, '$.chords', json_object(
        'finder', value ->> '$.finderChord',
        'gather', value ->> '$.quickAddChord',
        'rest', value ->> '$.restChord',
        'record', coalesce(value ->> '$.recordChord', 'Ctrl+Alt+Shift+R'),
        'takeBack', value ->> '$.takeBackChord',
        'proofLine', 'Ctrl+Alt+P',
        'why', 'Ctrl+Alt+W',
        'help', 'F1')),
    '$.finderChord', '$.quickAddChord', '$.restChord', '$.recordChord', '$.takeBackChord')
WHERE name = 'typing' AND json_valid(value) AND json_type(value) = 'object';
