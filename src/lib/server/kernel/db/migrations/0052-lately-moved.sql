-- What was moved last is found however long ago that was.
CREATE INDEX event_moved ON event (happened_at DESC, id DESC) WHERE kind IN ('move', 'put away');
