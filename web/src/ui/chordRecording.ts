/** Whether a chord is being recorded: every chord is heard then, also those that do something else here. */
let recording = false;

export const isRecordingChord = (): boolean => recording;

export function setRecordingChord(on: boolean): void {
  recording = on;
}
