import { useDebounceFn, useEventListener, useManualRefHistory } from '@vueuse/core'
import { computed, type MaybeRefOrGetter, type Ref, ref, shallowRef, toRaw, toValue, watch } from 'vue'
import { api, type Problem, type Schemas } from '@/api/client'
import { asDesign, asDocument, type Design, type Element } from '@/api/documents'
import { stillAsked } from '../safety/useLaying'
import { deedBetween } from './clipboard'

export interface Bench {
  design: Ref<Design | undefined>
  kept: Readonly<Ref<Schemas['Design'] | undefined>>
  recordSetId: Ref<number | undefined>
  /** Counts the changes of the design. */
  version: Readonly<Ref<number>>
  chosenId: Ref<string | undefined>
  chosen: Readonly<Ref<Element | undefined>>
  /** All that are chosen together, the one chosen first before the others; one or none is no group. */
  group: Readonly<Ref<readonly Element[]>>
  /** Chooses an element, or adds it to those that are chosen and takes it away again. */
  choose: (id: string | undefined, besides?: boolean) => void
  chooseAll: (ids: readonly string[]) => void
  /** What became of the draft: it is kept, waits to be, or somebody else changed it. */
  state: Readonly<Ref<'kept' | 'waits' | 'conflict'>>
  problem: Readonly<Ref<Problem | undefined>>
  /** What two people changed differently at the same time; and who changed something that was taken in by itself. */
  clashes: Readonly<Ref<readonly Schemas['Clash'][]>>
  tookIn: Readonly<Ref<string | undefined>>
  /** Joins the draft with the one that somebody else changed meanwhile. */
  merge: (take?: Record<string, 'mine' | 'theirs'>) => Promise<void>
  /** What undo takes back and redo does again, in a few words; undefined: there is nothing. */
  undoes: Readonly<Ref<string | undefined>>
  redoes: Readonly<Ref<string | undefined>>
  undo: () => void
  redo: () => void
  /** Ends a gesture: what was changed since the last one is undone in one step. */
  commit: () => void
  change: (id: string, to: Partial<Element>) => void
  /** Changes several in one step. */
  changeAll: (moves: ReadonlyMap<string, Partial<Element>>) => void
  add: (...elements: Element[]) => void
  remove: (...ids: string[]) => void
  /** Puts others in an element's place. */
  replace: (id: string, by: Element[]) => void
  /** Makes the design another in one step, and chooses some of its elements. */
  become: (to: Design, ids: readonly string[]) => void
  /** Takes the design as it is on another stock or printer. */
  carry: (to: Design, printerId: number | undefined) => void
  move: (id: string, to: 'front' | 'back') => void
  /**
   * Loads the draft as the server has it, with what a closed page had not yet sent, and shows it together with what comes beside it. Until
   * it is there, the draft that was seen last is shown; what is changed of that meanwhile is joined like what two people change.
   */
  load: (first: { seen: Schemas['Design'] | undefined; soon: Promise<unknown> }) => Promise<void>
  /** Loads the draft as the server has it, and lets go what was not yet sent. */
  takeTheirs: () => Promise<void>
  /** The design is what the server has. */
  asKept: () => boolean
  keepAsCopy: () => Promise<number | undefined>
  flush: () => Promise<void>
}

/** A draft that the server does not have yet, with the edit and the document that it was made of. */
interface Unsent {
  edit: number
  base: Schemas['Document']
  design: Design
}

/** A document is plain JSON, so this copies it whole, proxies of reactivity left behind. */
export const clone = <T>(value: T): T =>
  value === undefined ? value : (JSON.parse(JSON.stringify(toRaw(value))) as T)

/** JSON that is the same wherever two say the same, in whatever order they say it. */
const inOrder = (value: unknown) =>
  JSON.stringify(toRaw(value), (_, part: unknown) =>
    part && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  )

const stateOf = (kept: { snapshot: unknown } | undefined) => kept?.snapshot as Design | undefined

/** One design being edited: its draft, undo, and the keeping of the draft as it is typed. */
export function useBench(designId: MaybeRefOrGetter<number>): Bench {
  const design = ref<Design>()
  const kept = shallowRef<Schemas['Design']>()
  const recordSetId = ref<number>()
  const printerId = ref<number>()
  const chosenId = ref<string>()
  const state = ref<'kept' | 'waits' | 'conflict'>('kept')
  const problem = shallowRef<Problem>()
  const history = useManualRefHistory(design, { clone })
  const chosen = computed(() => design.value?.elements.find((e) => e.id === chosenId.value))
  const besides = ref<readonly string[]>([])
  const group = computed(() =>
    [chosenId.value, ...besides.value]
      .map((id) => design.value?.elements.find((e) => e.id === id))
      .filter((e) => e !== undefined),
  )
  watch(chosenId, () => (besides.value = besides.value.filter((id) => id !== chosenId.value)), {
    flush: 'sync',
  })
  function matesOf(id: string | undefined): string[] {
    const name = design.value?.elements.find((e) => e.id === id)?.group
    if (!name) return id === undefined ? [] : [id]
    return design.value?.elements.filter((e) => e.group === name).map((e) => e.id) ?? []
  }
  function choose(id: string | undefined, more = false) {
    if (!more || id === undefined || chosenId.value === undefined) {
      const mates = matesOf(id)
      // A click on one of a group takes the group; on one of the group that is chosen, that one.
      const took =
        mates.length === group.value.length && mates.every((m) => group.value.some((e) => e.id === m))
      besides.value = took ? [] : mates.filter((m) => m !== id)
      chosenId.value = id
    } else if (id === chosenId.value) {
      chosenId.value = besides.value[0]
    } else {
      besides.value = besides.value.includes(id)
        ? besides.value.filter((b) => b !== id)
        : [...besides.value, id]
    }
  }
  function chooseAll(ids: readonly string[]) {
    chosenId.value = ids[0]
    besides.value = ids.slice(1)
  }
  const backup = () => `draft ${String(toValue(designId))}`
  let loading = false
  let saving: Promise<void> | undefined

  const ask = () => api.GET('/designs/{id}', { params: { path: { id: toValue(designId) } } })
  function show(data: Schemas['Design']) {
    loading = true
    const unsent = unsentOf(data)
    kept.value = unsent ? { ...data, edit: unsent.edit, document: unsent.base } : data
    design.value = clone(asDesign(data.document)) // what is kept stays as it is
    recordSetId.value = data.recordSetId
    state.value = 'kept'
    clashes.value = []
    tookIn.value = undefined
    history.commit()
    history.clear()
    if (unsent) {
      design.value = unsent.design
      history.commit()
    }
    setTimeout(() => {
      loading = false
      if (unsent) touched()
    })
  }
  const isShown = (data: Schemas['Design']) =>
    data.edit === kept.value?.edit && JSON.stringify(data.document) === JSON.stringify(kept.value.document)

  const load: Bench['load'] = async ({ seen, soon }) => {
    const coming = ask()
    if (seen) show(seen)
    const { data, error } = await coming
    await soon
    problem.value = error
    if (!data) {
      if (error.status === 404) design.value = undefined
    } else if (isShown(data)) {
      kept.value = data
    } else if (state.value === 'kept') {
      show(data)
    }
  }

  async function takeTheirs() {
    localStorage.removeItem(backup())
    const { data, error } = await ask()
    problem.value = error
    if (data) show(data)
  }

  /** What a closed or crashed page had not yet sent. Of a draft that somebody changed since, it is joined with that when it is sent. */
  function unsentOf(data: Schemas['Design']): Unsent | undefined {
    const saved = localStorage.getItem(backup())
    if (!saved) return undefined
    const { edit, base, design } = JSON.parse(saved) as Partial<Unsent>
    if (edit === undefined || !base || !design) return undefined
    // It was made of another design, of a server that stood here before with other data.
    if (edit > data.edit || (edit === data.edit && base.name !== data.document.name)) return undefined
    if (inOrder(design) === inOrder(data.document)) {
      localStorage.removeItem(backup()) // the last that the page did was to send it
      return undefined
    }
    return { edit, base, design }
  }

  function touched() {
    if (loading || !design.value || !kept.value || state.value === 'conflict') return
    state.value = 'waits'
    void backUpSoon()
    void saveSoon()
  }

  /** Keeps the draft in the browser too, for a page that dies; a moment later, since it stops the hand. */
  function backUp() {
    if (state.value === 'waits' && design.value && kept.value)
      localStorage.setItem(
        backup(),
        JSON.stringify({
          edit: kept.value.edit,
          base: kept.value.document,
          design: toRaw(design.value),
        } satisfies Unsent),
      )
  }
  const backUpSoon = useDebounceFn(backUp, 100, { maxWait: 300 })

  const clashes = shallowRef<readonly Schemas['Clash'][]>([])
  const tookIn = ref<string>()
  async function merge(take?: Record<string, 'mine' | 'theirs'>): Promise<void> {
    const base = kept.value?.document
    if (!base || !design.value) return
    const { data: theirs } = await api.GET('/designs/{id}', { params: { path: { id: toValue(designId) } } })
    if (!theirs) return
    const mine = asDocument(design.value)
    const sent = JSON.stringify(mine)
    const { data } = await api.POST('/designs/merge', { body: { base, mine, theirs: theirs.document, take } })
    if (!data) return
    // A hand was quicker: what it changed meanwhile counts too.
    if (sent !== JSON.stringify(asDocument(design.value))) return merge(take)
    clashes.value = data.clashes
    if (data.clashes.length) return
    kept.value = theirs
    problem.value = undefined
    tookIn.value = theirs.updatedBy
    state.value = 'waits'
    design.value = clone(asDesign(data.document)) // what is kept stays as it is
    history.commit()
    void saveSoon()
  }

  async function save() {
    if (saving) {
      await saving
      if (state.value !== 'waits') return
    }
    if (!design.value || !kept.value || state.value !== 'waits') return
    const sent = JSON.stringify(toRaw(design.value)) + String(recordSetId.value)
    saving = (async () => {
      const { data, error, response } = await api.PUT('/designs/{id}', {
        params: { path: { id: toValue(designId) } },
        body: {
          edit: kept.value?.edit ?? 0,
          document: asDocument(design.value as Design),
          recordSetId: recordSetId.value,
          printerId: printerId.value,
        },
      })
      problem.value = error
      if (data) {
        kept.value = data
        if (sent === JSON.stringify(toRaw(design.value)) + String(recordSetId.value)) {
          state.value = 'kept'
          localStorage.removeItem(backup())
        } else {
          void saveSoon()
        }
      } else if (response.status === 409) {
        state.value = 'conflict'
        await merge()
      } else if (response.status === 503) {
        setTimeout(() => void save(), 3000)
      }
    })()
    await saving
    saving = undefined
  }
  const saveSoon = useDebounceFn(save, 500)

  const version = ref(0)
  watch(design, () => version.value++, { deep: true })
  watch(version, touched)
  watch(recordSetId, touched)
  useEventListener('beforeunload', () => {
    backUp()
    void save()
  })

  function change(id: string, to: Partial<Element>) {
    const element = design.value?.elements.find((e) => e.id === id)
    if (element) Object.assign(element, to)
  }

  function changeAll(moves: ReadonlyMap<string, Partial<Element>>) {
    for (const [id, to] of moves) change(id, to)
  }

  function add(...elements: Element[]) {
    design.value?.elements.push(...elements)
    chooseAll(elements.map((e) => e.id))
    history.commit()
  }

  function remove(...ids: string[]) {
    if (!design.value) return
    design.value.elements = design.value.elements.filter((e) => !ids.includes(e.id))
    for (const e of design.value.elements) if (e.around) e.around = e.around.filter((id) => !ids.includes(id))
    design.value.demands = stillAsked(design.value)
    if (chosenId.value !== undefined && ids.includes(chosenId.value)) choose(undefined)
    history.commit()
  }

  function replace(id: string, by: Element[]) {
    if (!design.value) return
    design.value.elements = design.value.elements.flatMap((e) => (e.id === id ? by : [e]))
    chooseAll(by.map((e) => e.id))
    history.commit()
  }

  function become(to: Design, ids: readonly string[]) {
    design.value = to
    chooseAll(ids)
    history.commit()
  }

  function carry(to: Design, printer: number | undefined) {
    if (!design.value) return
    printerId.value = printer
    design.value = { ...to, name: design.value.name }
    history.commit()
  }

  /** Draws an element over all others, or under them. */
  function move(id: string, to: 'front' | 'back') {
    const elements = design.value?.elements
    const at = elements?.findIndex((e) => e.id === id) ?? -1
    if (!elements || at < 0) return
    const [element] = elements.splice(at, 1)
    if (element && to === 'front') elements.push(element)
    else if (element) elements.unshift(element)
    history.commit()
  }

  const asKept = () =>
    recordSetId.value === kept.value?.recordSetId &&
    JSON.stringify(toRaw(design.value)) === JSON.stringify(kept.value?.document)

  async function keepAsCopy(): Promise<number | undefined> {
    if (!design.value) return undefined
    const { data, error } = await api.POST('/designs', {
      body: {
        name: `${design.value.name}, my copy`,
        document: asDocument(design.value),
        recordSetId: recordSetId.value,
        printerId: printerId.value ?? kept.value?.printerId,
      },
    })
    problem.value = error
    if (data) localStorage.removeItem(backup())
    return data?.id
  }

  return {
    design,
    kept,
    recordSetId,
    version,
    chosenId,
    chosen,
    group,
    choose,
    chooseAll,
    changeAll,
    state,
    problem,
    clashes,
    tookIn,
    merge,
    undoes: computed(() => {
      const [last, before] = history.history.value
      return history.canUndo.value ? deedBetween(stateOf(before), stateOf(last)) : undefined
    }),
    redoes: computed(() => {
      const next = history.redoStack.value[0]
      return next && deedBetween(stateOf(history.last.value), stateOf(next))
    }),
    undo: history.undo,
    redo: history.redo,
    commit: () => {
      if (JSON.stringify(toRaw(history.last.value.snapshot)) !== JSON.stringify(toRaw(design.value)))
        history.commit()
    },
    change,
    add,
    remove,
    replace,
    become,
    carry,
    move,
    load,
    takeTheirs,
    asKept,
    keepAsCopy,
    flush: save,
  }
}
