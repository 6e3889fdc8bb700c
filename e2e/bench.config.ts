import { defineConfig } from '@playwright/test'
import base from './playwright.config'

export default defineConfig({ ...base, testDir: './bench', timeout: 300_000, reporter: [['line']] })
