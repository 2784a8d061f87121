CREATE TABLE `visitor_events` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`type` text NOT NULL,
	`query_id` text NOT NULL,
	`record_id` text NOT NULL,
	`position` integer,
	`session` text,
	`at` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `events_by_query` ON `visitor_events` (`query_id`);--> statement-breakpoint
CREATE INDEX `events_by_time` ON `visitor_events` (`at`);