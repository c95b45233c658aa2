-- The history of a place: what came to it and went from it.
CREATE INDEX movement_place ON movement (place_id, event_id);
