import { createContext, type ReactNode, useContext, useMemo, useState } from 'react';
import {
  coldEndText,
  distanceText,
  heightText,
  keepShown,
  kelvinText,
  pressureText,
  shownSystem,
  sizeText,
  type System,
  temperatureText,
  volumeText,
} from './units';

interface Units {
  system: System;
  setSystem: (system: System) => void;
  volume: (litres: number) => string;
  size: (litres: number) => string;
  temperature: (celsius: number, decimals?: number) => string;
  coldEnd: (celsius: number) => string;
  kelvin: (k: number) => string;
  pressure: (kpa: number) => string;
  distance: (km: number) => string;
  height: (metres: number) => string;
}

const Context = createContext<Units | null>(null);
export function UnitsProvider({ children }: { children: ReactNode }) {
  const [system, keepSystem] = useState<System>(shownSystem);
  const value = useMemo<Units>(
    () => ({
      system,
      setSystem: (next) => {
        keepShown(next);
        keepSystem(next);
      },
      volume: (litres) => volumeText(litres, system),
      size: (litres) => sizeText(litres, system),
      temperature: (celsius, decimals) => temperatureText(celsius, system, decimals),
      coldEnd: (celsius) => coldEndText(celsius, system),
      kelvin: (k) => kelvinText(k, system),
      pressure: (kpa) => pressureText(kpa, system),
      distance: (km) => distanceText(km, system),
      height: (metres) => heightText(metres, system),
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
