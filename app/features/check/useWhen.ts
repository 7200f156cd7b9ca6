/** When something was known: the time where that was today, else the day. */
import { useFormat } from '../../ui/locale.ts';

export function useWhen(): (iso: string) => string {
  const f = useFormat();
  return (iso) => {
    const at = new Date(iso);
    const isToday = at.toDateString() === new Date().toDateString();
    return isToday
      ? new Intl.DateTimeFormat(f.locale, { hour: '2-digit', minute: '2-digit' }).format(at)
      : f.day(iso.slice(0, 10));
  };
}
