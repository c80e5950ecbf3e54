-- What there is to stop for is counted everywhere it is found, not on the line alone: every summary is worked out anew.
UPDATE jobs SET summary_of = NULL;
