let sound: AudioContext | undefined;

/** A page may sound only after a press on it: called with one. */
export function wakeBell(): void {
  try {
    sound ??= new AudioContext();
    void sound.resume();
  } catch {
    // Without sound the page still says that the time is over.
  }
}

const TONES = [880, 1175, 880];

/** Rings once, and shakes the phone where it can. */
export function ring(): void {
  navigator.vibrate?.([200, 120, 200]);
  if (!sound) return;
  for (const [i, pitch] of TONES.entries()) {
    const from = sound.currentTime + 0.28 * i;
    const tone = sound.createOscillator();
    const loud = sound.createGain();
    tone.frequency.value = pitch;
    loud.gain.setValueAtTime(0.25, from);
    loud.gain.exponentialRampToValueAtTime(0.001, from + 0.26);
    tone.connect(loud).connect(sound.destination);
    tone.start(from);
    tone.stop(from + 0.27);
  }
}
