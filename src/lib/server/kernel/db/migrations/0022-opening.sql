-- Stock that lay here before Earmark comes in by an event of its own.
ALTER TABLE event DROP CONSTRAINT event_kind_check;
ALTER TABLE event ADD CONSTRAINT event_kind_check CHECK (kind IN (
  'receive', 'put away', 'move', 'transfer', 'build', 'repack', 'teardown', 'identify', 'pack',
  'unpack', 'ship', 'count', 'gain', 'loss', 'scrap', 'hold', 'release', 'reject', 'return', 'fit',
  'remove', 'swap', 'station', 'amendment', 'reversal', 'opening'
));
