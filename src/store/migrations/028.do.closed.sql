-- A site that was taken out to be brought in elsewhere is closed here: nobody comes to it, nothing is written, and nothing of it is gone.
ALTER TABLE site ADD COLUMN closed_at timestamptz;
