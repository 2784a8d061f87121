ALTER TABLE `graves` RENAME TO `tombstones`;--> statement-breakpoint
ALTER TABLE `tombstones` RENAME COLUMN `gid` TO `id`;--> statement-breakpoint
ALTER TABLE `tombstones` RENAME COLUMN `rid` TO `version_id`;--> statement-breakpoint
DROP INDEX `graves_by_collection`;--> statement-breakpoint
CREATE INDEX `tombstones_by_collection` ON `tombstones` (`collection_id`,`id`);--> statement-breakpoint
ALTER TABLE `records` RENAME COLUMN `rid` TO `version_id`;--> statement-breakpoint
DROP INDEX `records_by_rid`;--> statement-breakpoint
CREATE INDEX `records_by_version` ON `records` (`collection_id`,`version_id`);--> statement-breakpoint
ALTER TABLE `segments` RENAME COLUMN `from_rid` TO `from_version`;--> statement-breakpoint
ALTER TABLE `segments` RENAME COLUMN `to_rid` TO `to_version`;--> statement-breakpoint
ALTER TABLE `segments` RENAME COLUMN `grave_id` TO `tombstone_id`;
