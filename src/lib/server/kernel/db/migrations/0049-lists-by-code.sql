-- Lists that go by code, a page at a time, find where a page begins and stop where it ends.
CREATE INDEX product_by_code ON product (code);
CREATE INDEX partner_by_code ON partner (code);
