-- How a kind's addresses are put together is drafted with its lines. What was set before, to no effect, is drafted now; and a slug
-- line that was written before may move every page, as it could then.
UPDATE drafts SET design = json_set(design, '$.moves', 'all') WHERE json_extract(design, '$.moves') IS NULL;
UPDATE versions SET design = json_set(design, '$.moves', 'all') WHERE json_extract(design, '$.moves') IS NULL;
UPDATE drafts SET design = json_set(design, '$.address', (
    SELECT path.value FROM site, json_each(site.settings, '$.paths') AS path WHERE path.key = drafts.kind))
  WHERE EXISTS (SELECT 1 FROM site, json_each(site.settings, '$.paths') AS path WHERE path.key = drafts.kind);
INSERT INTO drafts (kind, design, version, saved_at)
  SELECT path.key, json_object('base', json('{}'), 'rules', json('[]'), 'moves', 'all', 'address', path.value), 1, strftime('%Y-%m-%dT%H:%M:%fZ', 'now')
  FROM site, json_each(site.settings, '$.paths') AS path WHERE path.key NOT IN (SELECT kind FROM drafts);
UPDATE site SET settings = json_remove(settings, '$.paths') WHERE json_extract(settings, '$.paths') IS NOT NULL;
