let sound: AudioContext | undefined

/** ring sounds three short tones, where this page may: a browser lets it once somebody has touched the page. */
export function ring() {
  try {
    sound ??= new AudioContext()
    void sound.resume()
    for (const k of [0, 1, 2]) tone(sound, sound.currentTime + k * 0.28)
  } catch {
    // A device without sound shows it all the same.
  }
  navigator.vibrate?.([200, 100, 200])
}

function tone(into: AudioContext, at: number) {
  const voice = into.createOscillator()
  const level = into.createGain()
  voice.frequency.value = 784
  level.gain.setValueAtTime(0.0001, at)
  level.gain.exponentialRampToValueAtTime(0.4, at + 0.02)
  level.gain.exponentialRampToValueAtTime(0.0001, at + 0.2)
  voice.connect(level).connect(into.destination)
  voice.start(at)
  voice.stop(at + 0.22)
}
