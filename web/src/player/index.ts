import { WunderkammerPlayer } from './element'

if (!customElements.get('wunderkammer-player')) customElements.define('wunderkammer-player', WunderkammerPlayer)
