CREATE TABLE `audit` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` text NOT NULL,
	`actor` text NOT NULL,
	`key_id` text,
	`remote` text,
	`method` text NOT NULL,
	`path` text NOT NULL,
	`collection` text,
	`detail` text
);
--> statement-breakpoint
CREATE INDEX `audit_by_collection` ON `audit` (`collection`,`id`);--> statement-breakpoint
ALTER TABLE `keys` ADD `sealed` text;