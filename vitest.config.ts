import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['src/**/*.test.ts', 'demo/**/*.test.ts', 'tests/unit/**/*.test.ts', 'tests/faults/**/*.test.ts'],
    globalSetup: ['tests/helpers/template.ts'],
    // Modules keep nothing between tests, so that files may share them: that halves what starting costs.
    isolate: false,
    testTimeout: 180_000,
    hookTimeout: 180_000,
    maxWorkers: '100%',
  },
  resolve: {
    alias: { '@': new URL('./src', import.meta.url).pathname },
  },
});
