import fc from "fast-check";

/** Properties are tried on the same cases each time; `npm run endure` gives fresh ones. */
fc.configureGlobal({ seed: Number(process.env.SEED ?? 20_061) });
