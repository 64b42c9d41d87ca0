import { defineConfig } from '@playwright/test'
import config from './playwright.config'

// Takes the pictures in docs/screenshots from the demonstration's data.
export default defineConfig({ ...config, testDir: 'shots' })
