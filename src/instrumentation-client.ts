/** Runs in the browser before anything of the pages does. */

// The pages' policy allows no code that is made of texts. Zod tries whether it may unless it is told, and each try is a violation.
Object.assign(globalThis, { __zod_globalConfig: { jitless: true } });
