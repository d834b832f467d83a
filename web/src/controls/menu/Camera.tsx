import { useEffect, useRef, useState } from 'react';
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import decoder from 'zxing-wasm/reader/zxing_reader.wasm?url';

const LOOK_MS = 200;

const WORDS: Record<string, string> = {
  NotAllowedError: 'The camera is not allowed. Allow it in the browser, or type the number.',
  NotFoundError: 'No camera found. Type the number.',
  NotReadableError: 'Another program uses the camera. Close it, or type the number.',
};

/** Reads a code with the device's camera; the pictures stay on the device. */
export default function Camera({ onCode }: { onCode: (code: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [trouble, setTrouble] = useState('');
  const tell = useRef(onCode);
  useEffect(() => {
    tell.current = onCode;
  });
  useEffect(() => {
    let stream: MediaStream | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let over = false;
    const canvas = document.createElement('canvas');
    const look = async () => {
      const film = video.current;
      const sheet = canvas.getContext('2d', { willReadFrequently: true });
      if (over || !film || !sheet) return;
      if (film.videoWidth > 0) {
        [canvas.width, canvas.height] = [film.videoWidth, film.videoHeight];
        sheet.drawImage(film, 0, 0);
        const picture = sheet.getImageData(0, 0, canvas.width, canvas.height);
        const [found] = await readBarcodes(picture, { maxNumberOfSymbols: 1, tryHarder: true });
        if (over) return;
        if (found?.text) {
          tell.current(found.text);
          return;
        }
      }
      timer = setTimeout(() => void look(), LOOK_MS);
    };
    const start = async () => {
      try {
        void prepareZXingModule({ overrides: { locateFile: () => decoder }, fireImmediately: true });
        stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } });
        if (over || !video.current) {
          stream.getTracks().forEach((track) => track.stop());
          return;
        }
        video.current.srcObject = stream;
        await video.current.play();
        await look();
      } catch (error) {
        if (!over) setTrouble(WORDS[(error as Error).name] ?? 'The camera cannot be used. Type the number.');
      }
    };
    void start();
    return () => {
      over = true;
      clearTimeout(timer);
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, []);
  if (trouble) return <p role="alert">{trouble}</p>;
  return (
    <div className="camera">
      <video ref={video} muted playsInline aria-label="Picture of the camera" />
      <p>Hold the code in front of the camera. Pictures stay on this device.</p>
    </div>
  );
}
