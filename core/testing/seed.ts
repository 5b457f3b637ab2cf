import fc from 'fast-check'

// The same numbers in each run, so that what fails does so again; others with MAKREL_SEED.
fc.configureGlobal({ seed: Number(process.env.MAKREL_SEED ?? 1) })
