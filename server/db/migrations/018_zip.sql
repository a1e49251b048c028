-- Whether what a delivery made is downloaded as one ZIP when its run has ended.
ALTER TABLE deliveries ADD COLUMN zip INTEGER NOT NULL DEFAULT 0;
ALTER TABLE run_deliveries ADD COLUMN zip INTEGER NOT NULL DEFAULT 0;
