CREATE TABLE `feed_runs` (
	`number` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`feed_id` text NOT NULL,
	`state` text NOT NULL,
	`by` text NOT NULL,
	`whole` integer NOT NULL,
	`order` integer NOT NULL,
	`started_at` integer NOT NULL,
	`ended_at` integer,
	`read` integer DEFAULT 0 NOT NULL,
	`written` integer DEFAULT 0 NOT NULL,
	`same` integer DEFAULT 0 NOT NULL,
	`deleted` integer DEFAULT 0 NOT NULL,
	`failed` integer DEFAULT 0 NOT NULL,
	`nameless` integer DEFAULT 0 NOT NULL,
	`total` integer,
	`asks` integer,
	`reason` text,
	`resume` text,
	`position` text,
	`shape` text,
	`changes` text DEFAULT '[]' NOT NULL
);
--> statement-breakpoint
CREATE INDEX `feed_runs_of_feed` ON `feed_runs` (`feed_id`,`number`);--> statement-breakpoint
ALTER TABLE `feed_keys` ADD `run` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `feed_keys` ADD `version` integer;--> statement-breakpoint
ALTER TABLE `feed_keys` ADD `print` integer;--> statement-breakpoint
ALTER TABLE `feed_keys` ADD `part` integer;--> statement-breakpoint
ALTER TABLE `feeds` ADD `secrets` text;--> statement-breakpoint
ALTER TABLE `feeds` ADD `mapping` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `feeds` ADD `position` text;--> statement-breakpoint
ALTER TABLE `feeds` ADD `shape` text;--> statement-breakpoint
ALTER TABLE `feeds` ADD `failures` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `feeds` ADD `reason` text;--> statement-breakpoint
ALTER TABLE `feeds` ADD `heard_at` integer;--> statement-breakpoint
ALTER TABLE `feeds` ADD `next_at` integer;--> statement-breakpoint
ALTER TABLE `feeds` ADD `check_every_s` integer DEFAULT 86400;--> statement-breakpoint
ALTER TABLE `feeds` ADD `drift` text;