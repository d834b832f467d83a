import { createContext, type ReactNode, useContext, useMemo, useState } from 'react';
import { kelvinText, type System, SYSTEMS, temperatureText, volumeText } from './units';

interface Units {
  system: System;
  setSystem: (system: System) => void;
  volume: (litres: number) => string;
  temperature: (celsius: number, decimals?: number) => string;
  kelvin: (k: number) => string;
}

const Context = createContext<Units | null>(null);
const KEY = 'temper.units'; // kept in the browser: a preference, nothing private

function remembered(): System {
  const kept = localStorage.getItem(KEY);
  return kept && kept in SYSTEMS ? (kept as System) : 'metric';
}

export function UnitsProvider({ children }: { children: ReactNode }) {
  const [system, keepSystem] = useState<System>(remembered);
  const value = useMemo<Units>(
    () => ({
      system,
      setSystem: (next) => {
        localStorage.setItem(KEY, next);
        keepSystem(next);
      },
      volume: (litres) => volumeText(litres, system),
      temperature: (celsius, decimals) => temperatureText(celsius, system, decimals),
      kelvin: (k) => kelvinText(k, system),
    }),
    [system],
  );
  return <Context.Provider value={value}>{children}</Context.Provider>;
}

export function useUnits(): Units {
  const units = useContext(Context);
  if (!units) throw new Error('useUnits outside UnitsProvider');
  return units;
}
