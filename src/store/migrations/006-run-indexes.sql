-- Nothing is looked up by where a change's page was; writing it down cost a place in the index for every move.
DROP INDEX run_changes_by_path;

-- What leads to a page is asked by the page: an index in the order of the pages, not of the paths that they go to, is
-- written in one place when many pages move one after another.
DROP INDEX redirects_by_target;
CREATE INDEX redirects_by_item ON redirects (item_id) WHERE retired_by IS NULL;
