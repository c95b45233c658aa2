-- Sequences go on behind what was numbered by hand; what costs were carried is all there is.

SELECT setval('event_id_seq', (SELECT max(id) FROM event)),
  setval('mark_id_seq', (SELECT max(id) FROM mark)),
  setval('transformation_id_seq', (SELECT max(id) FROM transformation));
