/** A file's bytes as base64. */
export const base64Of = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).replace(/^data:[^,]*,/, ''));
    reader.onerror = () => reject(new Error('The file cannot be read.'));
    reader.readAsDataURL(file);
  });

/** How long a file of sound plays, seconds, as this browser finds by decoding it. */
export const secondsOf = (file: File): Promise<number> =>
  new Promise((resolve, reject) => {
    const address = URL.createObjectURL(file);
    const done = (end: () => void) => () => {
      URL.revokeObjectURL(address);
      end();
    };
    const sound = new Audio();
    sound.onloadedmetadata = done(() => {
      if (Number.isFinite(sound.duration)) resolve(Math.round(sound.duration * 10) / 10);
      else reject(new Error('How long this file plays is not known. Save it again as WAV, MP3 or Ogg.'));
    });
    sound.onerror = done(() => reject(new Error('This browser cannot play the file. Use WAV, MP3 or Ogg.')));
    sound.src = address;
  });
