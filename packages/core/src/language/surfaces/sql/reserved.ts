/** Words that end what stands before them, and so are no names unless they stand in quotes. */
export const reserved: ReadonlySet<string> = new Set(
  ('ALL AND AS ASC BETWEEN BY CASE CAST CROSS DESC DISTINCT ELSE END ESCAPE EXCEPT EXISTS FALSE FETCH FROM FULL GROUP HAVING IN INNER ' +
    'INTERSECT IS JOIN LEFT LIKE LIMIT NATURAL NOT NULL OFFSET ON OR ORDER OUTER OVER RIGHT SELECT THEN TRUE UNION UNNEST USING WHEN ' +
    'WHERE WINDOW WITH').split(' '),
); // prettier-ignore
