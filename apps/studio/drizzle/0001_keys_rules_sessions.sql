CREATE TABLE `originals` (
	`collection_id` integer NOT NULL,
	`field` text NOT NULL,
	`key` text NOT NULL,
	`before` text NOT NULL,
	`after` text NOT NULL,
	PRIMARY KEY(`collection_id`, `field`, `key`)
);
--> statement-breakpoint
CREATE TABLE `sessions` (
	`hash` text PRIMARY KEY NOT NULL,
	`expires_at` text NOT NULL
);
--> statement-breakpoint
ALTER TABLE `collections` ADD `field_rules` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `keys` ADD `collections` text;--> statement-breakpoint
ALTER TABLE `keys` ADD `origins` text;--> statement-breakpoint
ALTER TABLE `keys` ADD `per_minute` integer;--> statement-breakpoint
ALTER TABLE `keys` ADD `expires_at` text;--> statement-breakpoint
ALTER TABLE `keys` ADD `filter` text;--> statement-breakpoint
ALTER TABLE `keys` ADD `last_used_at` text;