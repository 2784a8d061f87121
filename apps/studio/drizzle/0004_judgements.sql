CREATE TABLE `judgements` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`collection_id` integer NOT NULL,
	`query` text NOT NULL,
	`record_key` text NOT NULL,
	`grade` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `judgements_by_query` ON `judgements` (`collection_id`,`query`,`record_key`);