const CORNER = { width: 0.24, margin: 0.02 } // shares of the screen's width
const ROUND = 0.04 // of the camera's width

/** A clock that also ticks while the page is hidden, as it is when another window is shown. */
function ticking(rate: number, tick: () => void): () => void {
  const source = URL.createObjectURL(new Blob([`setInterval(() => postMessage(0), ${1000 / rate})`], { type: 'text/javascript' }))
  const clock = new Worker(source)
  clock.onmessage = tick
  return () => {
    clock.terminate()
    URL.revokeObjectURL(source)
  }
}

async function playing(stream: MediaStream): Promise<HTMLVideoElement> {
  const film = document.createElement('video')
  film.muted = true
  film.srcObject = stream
  await film.play()
  return film
}

/** A screen with a camera in its lower right corner, as one picture. */
export async function withCorner(screen: MediaStream, camera: MediaStream, rate: number): Promise<{ stream: MediaStream; close: () => void }> {
  const [below, above] = await Promise.all([playing(screen), playing(camera)])
  const canvas = document.createElement('canvas')
  const pen = canvas.getContext('2d')!
  const stream = canvas.captureStream(rate)
  const draw = () => {
    if (!below.videoWidth || !above.videoWidth) return
    if (canvas.width !== below.videoWidth || canvas.height !== below.videoHeight) Object.assign(canvas, { width: below.videoWidth, height: below.videoHeight })
    pen.drawImage(below, 0, 0)
    const width = canvas.width * CORNER.width, height = (width * above.videoHeight) / above.videoWidth
    const x = canvas.width * (1 - CORNER.margin) - width, y = canvas.height - canvas.width * CORNER.margin - height
    pen.save()
    pen.beginPath()
    pen.roundRect(x, y, width, height, width * ROUND)
    pen.clip()
    pen.drawImage(above, x, y, width, height)
    pen.restore()
  }
  draw()
  const stop = ticking(rate, draw)
  return {
    stream,
    close() {
      stop()
      below.srcObject = above.srcObject = null
    },
  }
}
