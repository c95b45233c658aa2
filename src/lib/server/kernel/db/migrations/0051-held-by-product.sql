-- What of a product is held or rejected is found without looking at what others have of it.
CREATE INDEX mark_not_usable_by_product ON mark (product_id, id) WHERE state <> 'usable';
