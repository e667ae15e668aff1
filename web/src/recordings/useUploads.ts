import { defaultOptions, Upload } from 'tus-js-client'
import { reactive, ref, watch } from 'vue'
import { csrfToken } from '@/api/client'

export interface Sending {
  key: number
  name: string
  bytes: number
  sent: number
  speed: number // bytes a second, of the last seconds
  state: 'sending' | 'paused' | 'failed' | 'done'
  problem: string
}

/** What goes with a file: the show it belongs to, and its words where there are some already. */
export interface Beside {
  show?: string | null
  shelf?: boolean // to be shown over words; nobody listens to it
  angleOf?: string // the recording that it is another camera of
  words?: File
}

export interface Unfinished {
  name: string
  forget: () => void
}

const CHUNK = 16 * 1024 * 1024

/** The message for people in a refusal. */
function messageOf(body: string | undefined): string {
  try {
    return (JSON.parse(body ?? '') as { detail?: string }).detail ?? ''
  } catch {
    return ''
  }
}

/** Files on their way to the server by the tus protocol: they go on after a lost connection or a reload. */
export function useUploads(keptHours: () => number, done: (recording: string, beside: Beside) => void) {
  const list = ref<Sending[]>([])
  const uploads = new Map<number, Upload>()
  const unfinished = ref<Unfinished[]>([])
  let next = 1

  /** Uploads that a reload or a lost connection broke off: choosing the same file again goes on with them. */
  async function lookForUnfinished() {
    const storage = defaultOptions.urlStorage
    const found = await storage.findAllUploads()
    unfinished.value = found
      .filter((each) => Date.now() - Date.parse(each.creationTime) < keptHours() * 3600_000 && !list.value.some((sending) => sending.name === each.metadata.filename))
      .map((each) => ({
        name: each.metadata.filename ?? 'A file',
        forget: () => void storage.removeUpload(each.urlStorageKey).then(lookForUnfinished),
      }))
  }
  watch(keptHours, () => void lookForUnfinished(), { immediate: true })

  function start(file: File, beside: Beside = {}) {
    const entry = reactive<Sending>({ key: next++, name: file.name, bytes: file.size, sent: 0, speed: 0, state: 'sending', problem: '' })
    list.value.push(entry)
    if (file.size === 0) {
      entry.state = 'failed'
      entry.problem = 'The file is empty. Choose the recording again.'
      return
    }
    let mark = { at: performance.now(), sent: -1 }
    const upload = new Upload(file, {
      endpoint: '/api/uploads',
      chunkSize: CHUNK,
      retryDelays: [0, 1000, 3000, 5000, 10_000, 20_000],
      removeFingerprintOnSuccess: true,
      headers: { 'X-CSRFToken': csrfToken() },
      metadata: { filename: file.name, ...(beside.show ? { show: beside.show } : {}), ...(beside.shelf ? { shelf: 'yes' } : {}), ...(beside.angleOf ? { angle_of: beside.angleOf } : {}) },
      onProgress(sent) {
        const now = performance.now()
        if (mark.sent < 0) mark = { at: now, sent }
        if (now - mark.at > 1000) {
          entry.speed = ((sent - mark.sent) / (now - mark.at)) * 1000
          mark = { at: now, sent }
        }
        entry.sent = sent
      },
      onSuccess({ lastResponse }) {
        entry.state = 'done'
        list.value = list.value.filter((each) => each.key !== entry.key)
        done(lastResponse.getHeader('Hovvet-Recording') ?? '', beside)
      },
      onError(error) {
        entry.state = 'failed'
        const answer = 'originalResponse' in error ? error.originalResponse?.getBody() : ''
        entry.problem = messageOf(answer) || 'The connection was lost. What has arrived is kept: press Resume.'
      },
    })
    uploads.set(entry.key, upload)
    void upload.findPreviousUploads().then((found) => {
      if (found[0]) upload.resumeFromPreviousUpload(found[0])
      upload.start()
      void lookForUnfinished()
    })
  }

  function pause(entry: Sending) {
    void uploads.get(entry.key)?.abort()
    entry.state = 'paused'
  }

  function goOn(entry: Sending) {
    entry.state = 'sending'
    entry.problem = ''
    uploads.get(entry.key)?.start()
  }

  function cancel(entry: Sending) {
    void uploads.get(entry.key)?.abort(true).catch(() => {})
    list.value = list.value.filter((each) => each.key !== entry.key)
  }

  return { list, unfinished, start, pause, goOn, cancel }
}
