import { MOST_BREAKS, type Break, type Proof } from './proof.ts';

/** A mark says what its last change says. */
export const marksSayTheirLastChange: Proof = (tx) => tx<Break[]>`
  SELECT 'a mark says its last change' AS law,
    'mark ' || c.mark_id || ', ' || coalesce(c.fact, c.field) AS what,
    coalesce(c.new_value, 'nothing') AS expected, coalesce(c.now, 'nothing') AS found
  FROM (
    SELECT DISTINCT ON (c.mark_id, c.field, c.fact) c.mark_id, c.field, c.fact, c.new_value,
      CASE c.field
        WHEN 'state' THEN m.state
        WHEN 'number' THEN m.number::text
        WHEN 'expires_on' THEN m.expires_on::text
        WHEN 'made_on' THEN m.made_on::text
        WHEN 'retest_on' THEN m.retest_on::text
        WHEN 'supplier_number' THEN m.supplier_number
        WHEN 'fact' THEN m.facts -> c.fact ->> 'value'
      END AS now
    FROM mark_change c
      JOIN mark m ON m.id = c.mark_id
    WHERE c.field <> 'warranty_start'
    ORDER BY c.mark_id, c.field, c.fact, c.id DESC
  ) c
  WHERE c.new_value IS DISTINCT FROM c.now
  LIMIT ${MOST_BREAKS}
`;

/** A change begins with what the one before it ended with. */
export const changesFollowEachOther: Proof = (tx) => tx<Break[]>`
  SELECT 'a change begins where the last one ended' AS law,
    'mark ' || c.mark_id || ', ' || coalesce(c.fact, c.field) AS what,
    coalesce(c.before, 'nothing') AS expected, coalesce(c.old_value, 'nothing') AS found
  FROM (
    SELECT mark_id, field, fact, old_value,
      lag(new_value) OVER chain AS before, row_number() OVER chain AS place
    FROM mark_change
    WINDOW chain AS (PARTITION BY mark_id, field, fact ORDER BY id)
  ) c
  WHERE c.place > 1 AND c.before IS DISTINCT FROM c.old_value
  LIMIT ${MOST_BREAKS}
`;

/** A mark that was never changed is as usable as it was born. */
export const statesHaveADecision: Proof = (tx) => tx<Break[]>`
  SELECT 'a state has its decision' AS law, 'mark ' || m.id AS what,
    'usable' AS expected, m.state AS found
  FROM mark m
  WHERE m.state <> 'usable'
    AND NOT EXISTS (SELECT FROM mark_change c WHERE c.mark_id = m.id AND c.field = 'state')
  LIMIT ${MOST_BREAKS}
`;

/** A serial is within a lot of its own product. */
export const serialsAreWithinLots: Proof = (tx) => tx<Break[]>`
  SELECT 'a serial is within a lot of its product' AS law, 'mark ' || m.id AS what,
    'a lot of product ' || m.product_id AS expected,
    'a ' || l.kind || ' of product ' || l.product_id AS found
  FROM mark m
    JOIN mark l ON l.id = m.lot_id
  WHERE l.kind <> 'lot' OR l.product_id <> m.product_id OR m.kind <> 'serial'
  LIMIT ${MOST_BREAKS}
`;

/**
 * Nothing happens to a mark before it was born; serials move as wholes, and nothing is finer than
 * its product is counted.
 */
export const movementsFitTheirMarks: Proof = (tx) => tx<Break[]>`
  SELECT
    CASE
      WHEN v.event_id < m.birth_event THEN 'nothing happens before birth'
      ELSE 'amounts are as their product is counted'
    END AS law,
    'mark ' || m.id || ', event ' || v.event_id AS what,
    CASE
      WHEN v.event_id < m.birth_event THEN 'from event ' || m.birth_event
      WHEN m.kind = 'serial' THEN '1'
      ELSE p.decimals || ' decimals'
    END AS expected,
    v.quantity::text AS found
  FROM movement v
    JOIN mark m ON m.id = v.mark_id
    JOIN product p ON p.id = m.product_id
  WHERE v.event_id < m.birth_event
    OR m.kind = 'serial' AND abs(v.quantity) <> 1
    OR v.quantity <> round(v.quantity, p.decimals)
  LIMIT ${MOST_BREAKS}
`;
