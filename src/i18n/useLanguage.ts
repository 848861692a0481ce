import { useEffect, useState } from 'react';
import { activateLanguage, directionOf, languageFor, type Language } from './languages';

/**
 * The language that the app speaks.
 * @param chosen - what the person set; null for the device's own
 * @returns null until its sentences have come; while another one is on its way, the one before
 */
export function useLanguage(chosen: Language | null): Language | null {
  const [active, setActive] = useState<Language | null>(null);
  const wanted = chosen ?? languageFor(navigator.languages);
  useEffect(() => {
    let latest = true;
    const show = (language: Language): void => {
      if (!latest) return;
      document.documentElement.lang = language;
      document.documentElement.dir = directionOf(language);
      setActive(language);
    };
    activateLanguage(wanted).then(
      () => show(wanted),
      // a language that cannot be fetched now (no connection, never used here) gives way to English, which is kept with the app
      () => activateLanguage('en').then(() => show('en')),
    );
    return () => {
      latest = false;
    };
  }, [wanted]);
  return active;
}
