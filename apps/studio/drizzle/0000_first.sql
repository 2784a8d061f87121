CREATE TABLE `collections` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`name` text,
	`title` text NOT NULL,
	`key_field` text NOT NULL,
	`records` integer DEFAULT 0 NOT NULL,
	`generation` integer DEFAULT 0 NOT NULL,
	`live_version` integer DEFAULT 1 NOT NULL,
	`card` text,
	`created_at` text DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')) NOT NULL,
	`changed_at` text
);
--> statement-breakpoint
CREATE UNIQUE INDEX `collections_name_unique` ON `collections` (`name`);--> statement-breakpoint
CREATE TABLE `graves` (
	`gid` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`collection_id` integer NOT NULL,
	`rid` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `graves_by_collection` ON `graves` (`collection_id`,`gid`);--> statement-breakpoint
CREATE TABLE `keys` (
	`id` text PRIMARY KEY NOT NULL,
	`label` text NOT NULL,
	`secret_hash` text NOT NULL,
	`rights` text NOT NULL,
	`created_at` text DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')) NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `keys_secret_hash_unique` ON `keys` (`secret_hash`);--> statement-breakpoint
CREATE TABLE `records` (
	`rid` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`collection_id` integer NOT NULL,
	`ord` integer NOT NULL,
	`key` text NOT NULL,
	`json` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `records_by_key` ON `records` (`collection_id`,`key`);--> statement-breakpoint
CREATE INDEX `records_by_order` ON `records` (`collection_id`,`ord`);--> statement-breakpoint
CREATE INDEX `records_by_rid` ON `records` (`collection_id`,`rid`);--> statement-breakpoint
CREATE TABLE `segments` (
	`id` text PRIMARY KEY NOT NULL,
	`collection_id` integer NOT NULL,
	`from_rid` integer NOT NULL,
	`to_rid` integer NOT NULL,
	`grave_id` integer NOT NULL,
	`bytes` integer NOT NULL,
	`plan` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `settings` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `tasks` (
	`id` text PRIMARY KEY NOT NULL,
	`collection` text NOT NULL,
	`state` text NOT NULL,
	`task` text NOT NULL,
	`started_at` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `tasks_by_collection` ON `tasks` (`collection`,`started_at`);--> statement-breakpoint
CREATE TABLE `tunings` (
	`collection_id` integer NOT NULL,
	`version` integer NOT NULL,
	`document` text NOT NULL,
	`note` text,
	`saved_at` text DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')) NOT NULL,
	PRIMARY KEY(`collection_id`, `version`)
);
