import { DirectionalLight, HemisphereLight, type Light } from 'three'

/** Matt light from the upper left with a weak fill from the right: level faces come out in about the part's own colour. */
export function workshopLights(): Light[] {
  const main = new DirectionalLight('#ffffff', 1.5)
  main.position.set(-120, -170, 260)
  const fill = new DirectionalLight('#ffffff', 0.5)
  fill.position.set(200, -40, 60)
  return [new HemisphereLight('#ffffff', '#93a3a6', 2.15), main, fill]
}
