const fc = require("fast-check");

// Whether a fault is noticed is all that counts: no time is spent on the smallest example of it.
fc.configureGlobal({ endOnFailure: true });
