-- A delivery's rule is called so everywhere, as a preset's is.
ALTER TABLE deliveries RENAME COLUMN recipe TO rule;
ALTER TABLE runs RENAME COLUMN recipe TO delivery_rule;
