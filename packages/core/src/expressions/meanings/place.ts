import { isObject, type Value } from '../../values/json.ts';

/** WGS 84's mean radius in metres: (2a + b) / 3. */
const meanRadius = 6_371_008.7714;

/** Longitude and latitude in degrees of a GeoJSON Point (RFC 7946, 3.1.2) or a `[lon, lat]` array. */
export function positionOf(place: Value): readonly [number, number] | undefined {
  const coordinates = isObject(place) ? (place.type === 'Point' ? place.coordinates : undefined) : place;
  if (!Array.isArray(coordinates)) return undefined;
  const [longitude, latitude] = coordinates;
  if (typeof longitude !== 'number' || typeof latitude !== 'number' || Math.abs(latitude) > 90) return undefined;
  return [longitude, latitude];
}

/** Metres along the great circle between two places, by the haversine formula. */
export function distance(from: Value, to: Value): number | undefined {
  const a = positionOf(from);
  const b = positionOf(to);
  if (a === undefined || b === undefined) return undefined;
  const radians = Math.PI / 180;
  const north = Math.sin(((b[1] - a[1]) * radians) / 2);
  const east = Math.sin(((b[0] - a[0]) * radians) / 2);
  const h = north * north + Math.cos(a[1] * radians) * Math.cos(b[1] * radians) * east * east;
  return 2 * meanRadius * Math.asin(Math.min(1, Math.sqrt(h)));
}
