-- Lists show more of a job: what is shown is made anew from every document.
UPDATE jobs SET summary = NULL;
