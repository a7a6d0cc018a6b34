-- A photo of what was seen: a file of this name (its SHA-256) in the folder "pictures".
ALTER TABLE journal ADD COLUMN file TEXT CHECK (length(file) = 64);
