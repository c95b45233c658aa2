-- Letters have an address and somebody to read them; a reminder is a letter too.
ALTER TABLE partner
  ADD COLUMN address text NOT NULL DEFAULT '' CHECK (length(address) <= 1000),
  ADD COLUMN contact text NOT NULL DEFAULT '' CHECK (length(contact) <= 300);

ALTER TABLE recall_notice
  ADD COLUMN kind text NOT NULL DEFAULT 'notice' CHECK (kind IN ('notice', 'reminder')),
  -- A reminder that went out when it was due, in the name of who decided the scope.
  ADD COLUMN by_itself boolean NOT NULL DEFAULT false,
  -- The caller's idempotency key: letters sent twice are written once.
  ADD COLUMN key text CHECK (length(key) BETWEEN 1 AND 200),
  ADD UNIQUE (sent_by, key, case_id, partner_id);

-- After how many days without an answer a customer is reminded; null where nobody is, by itself.
ALTER TABLE recall_case
  ADD COLUMN remind_days integer CHECK (remind_days BETWEEN 1 AND 365);
