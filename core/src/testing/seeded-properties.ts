import fc from "fast-check";

// The same cases at every run, so that a failure is the change's and not the dice's; test:long
// throws them again and names its seed.
fc.configureGlobal({ seed: Number(process.env.HUMMING_TIDE_SEED ?? 20_261_125) });
