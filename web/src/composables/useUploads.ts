import { Upload } from 'tus-js-client'
import { reactive, ref } from 'vue'
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

const CHUNK = 16 * 1024 * 1024

/** Files on their way to the server by the tus protocol: they go on after a lost connection or a reload. */
export function useUploads(done: () => void) {
  const list = ref<Sending[]>([])
  const uploads = new Map<number, Upload>()
  let next = 1

  function start(file: File) {
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
      metadata: { filename: file.name },
      onProgress(sent) {
        const now = performance.now()
        if (mark.sent < 0) mark = { at: now, sent }
        if (now - mark.at > 1000) {
          entry.speed = ((sent - mark.sent) / (now - mark.at)) * 1000
          mark = { at: now, sent }
        }
        entry.sent = sent
      },
      onSuccess() {
        entry.state = 'done'
        list.value = list.value.filter((each) => each.key !== entry.key)
        done()
      },
      onError(error) {
        entry.state = 'failed'
        const answer = 'originalResponse' in error ? error.originalResponse?.getBody() : ''
        entry.problem = answer || 'The connection was lost. What has arrived is kept: press Go on.'
      },
    })
    uploads.set(entry.key, upload)
    void upload.findPreviousUploads().then((found) => {
      if (found[0]) upload.resumeFromPreviousUpload(found[0])
      upload.start()
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

  return { list, start, pause, goOn, cancel }
}
