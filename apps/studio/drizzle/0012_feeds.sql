CREATE TABLE `feed_events` (
	`number` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`feed_id` text NOT NULL,
	`source` text NOT NULL,
	`event` text NOT NULL,
	`type` text NOT NULL,
	`key` text NOT NULL,
	`action` text NOT NULL,
	`data` text,
	`order` integer NOT NULL,
	`state` text NOT NULL,
	`reason` text,
	`received_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `feed_events_once` ON `feed_events` (`feed_id`,`source`,`event`);--> statement-breakpoint
CREATE INDEX `feed_events_by_state` ON `feed_events` (`feed_id`,`state`,`number`);--> statement-breakpoint
CREATE INDEX `feed_events_by_time` ON `feed_events` (`feed_id`,`received_at`);--> statement-breakpoint
CREATE INDEX `feed_patches` ON `feed_events` (`feed_id`,`key`,`order`) WHERE action = 'patch';--> statement-breakpoint
CREATE TABLE `feed_keys` (
	`feed_id` text NOT NULL,
	`key` text NOT NULL,
	`order` integer NOT NULL,
	PRIMARY KEY(`feed_id`, `key`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `feed_messages` (
	`feed_id` text NOT NULL,
	`message` text NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`feed_id`, `message`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `feeds` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`collection_id` integer NOT NULL,
	`source` text NOT NULL,
	`state` text NOT NULL,
	`secret` text NOT NULL,
	`old_secret` text,
	`old_until` integer,
	`created_at` text NOT NULL
);
