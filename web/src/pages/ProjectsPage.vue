<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { h, onMounted, ref, useTemplateRef, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import IconLamp from '~icons/tabler/lamp'
import IconSun from '~icons/tabler/sun'
import { dated } from '@/composables/format'
import { message, report, tell } from '@/composables/notify'
import { themeName } from '@/composables/theme'
import { api, type ProjectSummary } from '@/net/api'
import ModalCard from '@/components/shared/ModalCard.vue'
import MenuList from '@/components/shared/MenuList.vue'

const router = useRouter()
const projects = ref<ProjectSummary[]>([])
const loaded = ref(false)
const naming = ref<{ project: ProjectSummary | null; name: string } | null>(null)

const field = useTemplateRef<InstanceType<typeof NInput>>('field')
watch(naming, (open, was) => {
  if (open && !was) setTimeout(() => field.value?.select()) // once the dialog has taken the focus
})

async function refresh(): Promise<void> {
  try {
    projects.value = await api.list()
    loaded.value = true
  } catch (error) {
    tell(error)
  }
}
onMounted(() => {
  window.document.title = 'Wunderkammer'
  void refresh()
})

/** Does something with the server and shows the list as it is afterwards. */
async function act(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
  } catch (error) {
    tell(error)
  }
  await refresh()
}

async function finishNaming(): Promise<void> {
  const { project, name } = naming.value ?? { project: null, name: '' }
  if (project) {
    naming.value = null
    return act(() => api.rename(project.id, name))
  }
  try {
    const made = await api.create(name)
    naming.value = null
    await router.push('/project/' + made.id)
  } catch (error) {
    tell(error)
  }
}

async function remove(project: ProjectSummary): Promise<void> {
  await act(() => api.remove(project.id))
  const shown = message.info(
    () =>
      h('span', [
        `“${project.name}” was deleted. `,
        h(
          NButton,
          {
            text: true,
            type: 'primary',
            onClick: () => {
              shown.destroy()
              void act(() => api.restore(project.id))
            },
          },
          () => 'Undo',
        ),
      ]),
    { duration: 15000, closable: true },
  )
}

async function openExample(): Promise<void> {
  try {
    await router.push('/project/' + (await api.example(false)).id)
  } catch (error) {
    tell(error)
  }
}

async function restoreExample(): Promise<void> {
  await act(() => api.example(true))
  message.info('A fresh copy of the example was added.', { duration: 6000 })
}

const menu = (p: ProjectSummary) => [
  { key: 'rename', label: 'Rename' },
  { key: 'duplicate', label: 'Duplicate' },
  { key: 'file', label: 'Download project file' },
  ...(p.example ? [{ key: 'fresh', label: 'Restore the example' }] : []),
  { key: 'remove', label: 'Delete' },
]

function choose(key: string, project: ProjectSummary): void {
  if (key === 'rename') naming.value = { project, name: project.name }
  else if (key === 'duplicate') void act(() => api.duplicate(project.id))
  else if (key === 'fresh') void restoreExample()
  else if (key === 'file') window.location.assign(api.file(project.id))
  else void remove(project)
}

function openFile(event: Event): void {
  const field = event.target as HTMLInputElement
  const file = field.files?.[0]
  field.value = ''
  if (file)
    void act(async () => {
      const { name, notes } = await api.importFile(file)
      if (notes) report(`${name} was opened`, notes)
    })
}
</script>

<template>
  <main class="page">
    <header>
      <img src="/icon.svg" alt="" width="34" height="34" />
      <h1>Wunderkammer</h1>
      <span class="quiet motto">Wire a composition once. Animate all of it from one panel.</span>
      <span class="space" />
      <label class="file">Open project file…<input type="file" accept=".wunderkammer" @change="openFile" /></label>
      <NButton type="primary" @click="naming = { project: null, name: 'Untitled' }">New project</NButton>
      <button
        class="plain icon"
        :aria-label="themeName === 'daylight' ? 'Switch to lamplight' : 'Switch to daylight'"
        @click="themeName = themeName === 'daylight' ? 'lamplight' : 'daylight'"
      >
        <IconLamp v-if="themeName === 'daylight'" /><IconSun v-else />
      </button>
    </header>
    <p v-if="loaded && !projects.length" class="empty">
      No projects yet. <button class="plain link" @click="naming = { project: null, name: 'Untitled' }">Create your first project</button>,
      or <button class="plain link" @click="openExample">open the example</button>.
    </p>
    <ul class="drawers">
      <li v-for="p in projects" :key="p.id" class="drawer">
        <RouterLink :to="'/project/' + p.id" class="picture" :aria-label="'Open ' + p.name"
          ><img :src="api.picture(p)" alt="" loading="lazy"
        /></RouterLink>
        <div class="label">
          <RouterLink :to="'/project/' + p.id" class="name">{{ p.name }}</RouterLink>
          <span v-if="p.example" class="tag">Example</span>
          <span class="quiet when">{{ dated(p.changed) }}</span>
          <MenuList trigger="click" :options="menu(p)" placement="bottom-end" @select="(key: string) => choose(key, p)">
            <button class="plain more" :aria-label="'Actions for ' + p.name">⋯</button>
          </MenuList>
        </div>
      </li>
    </ul>
    <ModalCard :show="naming !== null" :title="naming?.project ? 'Rename project' : 'New project'" :width="380" @close="naming = null">
      <form v-if="naming" class="naming" @submit.prevent="finishNaming">
        <NInput ref="field" v-model:value="naming.name" maxlength="200" :input-props="{ 'aria-label': 'Project name' }" />
        <NButton type="primary" attr-type="submit" :disabled="!naming.name.trim()">{{ naming.project ? 'Rename' : 'Create' }}</NButton>
      </form>
    </ModalCard>
  </main>
</template>

<style scoped>
.page {
  max-width: 1120px;
  margin: 0 auto;
  padding: 40px 32px;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-bottom: 32px;
}
h1 {
  font-size: 28px;
}
.motto {
  padding-top: 8px;
}
.space {
  flex: 1;
}
.icon {
  font-size: 18px;
  width: 30px;
  height: 30px;
  display: grid;
  place-items: center;
  border-radius: 4px;
}
.file {
  cursor: pointer;
  color: var(--brassText);
  padding: 4px 8px;
  border-radius: 4px;
  position: relative;
}
.file:hover,
.icon:hover {
  background: var(--picked);
}
.file:focus-within {
  outline: 2px solid var(--brass);
}
.file input {
  position: absolute;
  inset: 0;
  opacity: 0;
  width: 100%;
  cursor: pointer;
}
.drawers {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 24px;
}
.drawer {
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: var(--radius);
  padding: 10px;
  min-width: 0;
}
.drawer:hover {
  border-color: var(--brass);
}
.picture {
  display: block;
  background: var(--surround);
  border-radius: 3px;
  overflow: hidden;
  aspect-ratio: 16 / 9;
}
.picture img {
  width: 100%;
  height: 100%;
  object-fit: contain;
  display: block;
}
.label {
  display: flex;
  align-items: center;
  gap: 8px;
  margin-top: 10px;
  border: 1px solid var(--brass);
  border-radius: 4px;
  padding: 3px 10px;
}
.name {
  font: 600 14px var(--face-heading);
  color: var(--ink);
  text-decoration: none;
  overflow: clip visible;
  text-overflow: ellipsis;
  white-space: nowrap;
  flex: 1;
}
.when {
  font-size: 11px;
  white-space: nowrap;
}
.more {
  padding: 0 4px;
  border-radius: 3px;
}
.more:hover {
  background: var(--picked);
}
.empty {
  color: var(--ink2);
}
.link {
  color: var(--brassText);
  text-decoration: underline;
}
.naming {
  display: flex;
  gap: 8px;
}
.tag {
  font-size: 11px;
  padding: 0 6px;
  border: 1px solid var(--brass);
  border-radius: 3px;
  color: var(--brassText);
}
</style>
