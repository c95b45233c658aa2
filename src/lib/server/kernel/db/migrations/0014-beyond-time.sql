-- A recall decided for safety may be wider than the facts: it then takes in what time cleared too.
ALTER TABLE recall_case ADD COLUMN beyond_time boolean NOT NULL DEFAULT false;
