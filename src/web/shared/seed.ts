import fc from "fast-check";

// The same cases each time; a failure names its seed besides.
fc.configureGlobal({ seed: 20261128 });
