/** Kept in this browser: whether it is to show notifications. */
export const NOTIFIES = 'shelf-notifies';
const CHANGED = 'shelf-notifies-changed';

/** True where the browser can. */
export function mayNotify(): boolean {
  return typeof Notification !== 'undefined' && isSecureContext;
}

export function setNotifies(isOn: boolean): void {
  localStorage.setItem(NOTIFIES, isOn ? 'on' : 'off');
  window.dispatchEvent(new Event(CHANGED));
}

export function watchNotifies(changed: () => void): () => void {
  window.addEventListener(CHANGED, changed);
  window.addEventListener('storage', changed);
  return () => {
    window.removeEventListener(CHANGED, changed);
    window.removeEventListener('storage', changed);
  };
}
