/** Three short tones from the browser itself; silent until the page was touched once, as browsers ask. */
let audio: AudioContext | null = null;

const wake = () => {
  audio ??= new AudioContext();
  if (audio.state === 'suspended') void audio.resume();
};

/** Listen for the first touch; the answer stops listening. */
export function onFirstTouch(): () => void {
  if (typeof AudioContext === 'undefined') return () => undefined;
  window.addEventListener('pointerdown', wake, { once: true });
  window.addEventListener('keydown', wake, { once: true });
  return () => {
    window.removeEventListener('pointerdown', wake);
    window.removeEventListener('keydown', wake);
  };
}

const TONE_S = 0.22;

/** Ring; loud: a limit is passed. Says whether it could be heard. */
export function ring(loud: boolean): boolean {
  if (audio === null || audio.state !== 'running') return false;
  for (let n = 0; n < 3; n++) {
    const [tone, gain] = [audio.createOscillator(), audio.createGain()];
    tone.frequency.value = loud ? 1_040 : 780;
    tone.type = 'square';
    const at = audio.currentTime + n * TONE_S * 1.6;
    gain.gain.setValueAtTime(loud ? 0.32 : 0.16, at);
    gain.gain.exponentialRampToValueAtTime(0.001, at + TONE_S);
    tone.connect(gain).connect(audio.destination);
    tone.start(at);
    tone.stop(at + TONE_S);
  }
  return true;
}
