import { readFileSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Page } from '@playwright/test'

const file = fileURLToPath(new URL('../../docs/accessibility.md', import.meta.url))
/** What is listed: places, and all that is used. What they hold, as the rows of a tree, is what the user made. */
const listed =
  /^(banner|main|region|dialog|alertdialog|application|toolbar|tablist|tabpanel|tree|grid|table|listbox|menu|radiogroup|group|form|button|link|textbox|searchbox|spinbutton|combobox|slider|switch|checkbox|radio|tab|menuitem|separator|progressbar|img)$/
const needsName =
  /^(region|dialog|application|toolbar|tree|grid|listbox|button|link|textbox|searchbox|spinbutton|combobox|slider|switch|checkbox|radio|tab|menuitem)$/

/** What a name says of what the user made is left out: the rest is what the application says. */
function ours(name: string): string {
  if (/^\w+\(.*\)/.test(name)) return 'a function, as wave(cycles)'
  return name
    .replace(/-?\d+(\.\d+)?/g, '#')
    .replace(/^(?!Composition #$).+: (?:#\S*|mixed)(?: .*)?$/, '…: its value')
    .replace(
      /^(Actions for(?: the drawer| the link from)?|Arm|Pin(?: of)?|Remove(?: the pin of| the link from)?|Components of|Collapse|Expand|Everything|[\w ]+ name:|Name of the link:|Title of the note:) .+?( for recording| at this frame| at frame #|, marker at frame #| moves|\. Press to rename|)$/,
      '$1 …$2',
    )
    .replace(/^.+, (marker|sound) (at|from) frame #$/, '…, $1 $2 frame #')
}

/** Roles and names as the browser tells them to a screen reader, "role: name" each. */
export async function rolesOf(page: Page): Promise<string[]> {
  const out = new Set<string>()
  for (const line of (await page.locator('body').ariaSnapshot()).split('\n')) {
    const [, role = '', name = ''] = /^\s*- '?([a-z]+)(?: "((?:[^"\\]|\\.)*)")?/.exec(line) ?? []
    if (!listed.test(role) || (!name && !needsName.test(role))) continue
    out.add(`${role}: ${ours(name.replace(/\\"/g, '"'))}`)
  }
  return [...out]
}

/** The sections of the list that people read: by its heading, what is new in it. */
function sections(): Map<string, Set<string>> {
  const out = new Map<string, Set<string>>()
  for (const part of readFileSync(file, 'utf8').split(/^## /m).slice(1)) {
    const [title = '', ...lines] = part.split('\n')
    const all = new Set<string>()
    for (const line of lines) {
      const [, role, names] = /^- \*\*(\w+)\*\*: (.*)$/.exec(line) ?? []
      for (const name of names?.split(' · ') ?? []) all.add(`${role}: ${name}`)
    }
    out.set(title, all)
  }
  return out
}

/** What differs between what was read on a journey and what the list says: of it, and of all before it. */
export function compare(title: string, read: Set<string>): string[] {
  const all = [...sections()]
  const at = all.findIndex(([t]) => t === title)
  const known = new Set(all.slice(0, at + 1).flatMap(([, names]) => [...names]))
  return [
    ...[...read].filter((x) => !known.has(x)).map((x) => `not in docs/accessibility.md: ${x}`),
    ...[...(all[at]?.[1] ?? [])].filter((x) => !read.has(x)).map((x) => `no longer there: ${x}`),
  ]
}

/** Writes the section of a journey anew, without what those before it say. */
export function write(title: string, read: Set<string>): void {
  const text = readFileSync(file, 'utf8')
  const before = new Set<string>()
  for (const [t, names] of sections()) {
    if (t === title) break
    names.forEach((n) => before.add(n))
  }
  const by = new Map<string, string[]>()
  for (const one of [...read].filter((x) => !before.has(x)).sort()) {
    const [role = '', name = ''] = one.split(/: (.*)/s)
    by.set(role, [...(by.get(role) ?? []), name])
  }
  const body = [...by].sort().map(([role, names]) => `- **${role}**: ${names.join(' · ')}`)
  const section = `## ${title}\n\n${body.join('\n')}\n`
  const [head = '', ...rest] = text.split(/^(?=## )/m)
  const at = rest.findIndex((s) => s.startsWith(`## ${title}\n`))
  if (at < 0) rest.push(section)
  else rest[at] = at < rest.length - 1 ? section + '\n' : section
  writeFileSync(file, [head.trimEnd() + '\n\n', ...rest.map((s) => s.trimEnd() + '\n')].join('\n').replace(/\n{3,}/g, '\n\n'))
}
