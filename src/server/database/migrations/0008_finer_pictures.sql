-- Small pictures of parts have pens of pixels: kept ones were drawn so bold that a plate showed as blots.
UPDATE "geometry"
SET "picture" = regexp_replace(
  regexp_replace("picture", 'stroke-width="[^"]*"', 'stroke-width="0.9"', 'g'),
  '(<svg [^>]*>)', '\1<style>path{vector-effect:non-scaling-stroke}</style>')
WHERE "picture" IS NOT NULL AND "picture" NOT LIKE '%non-scaling-stroke%';
