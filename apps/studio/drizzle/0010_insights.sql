CREATE TABLE `insight_choices` (
	`collection_id` integer NOT NULL,
	`tag` text NOT NULL,
	`day` integer NOT NULL,
	`facet` text NOT NULL,
	`value` text NOT NULL,
	`searches` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`collection_id`, `tag`, `facet`, `value`, `day`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `insight_days` (
	`collection_id` integer NOT NULL,
	`tag` text NOT NULL,
	`day` integer NOT NULL,
	`visitors` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`collection_id`, `tag`, `day`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `insight_hours` (
	`collection_id` integer NOT NULL,
	`tag` text NOT NULL,
	`hour` integer NOT NULL,
	`searches` integer DEFAULT 0 NOT NULL,
	`missed` integer DEFAULT 0 NOT NULL,
	`clicked` integer DEFAULT 0 NOT NULL,
	`places` integer DEFAULT 0 NOT NULL,
	`conversions` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`collection_id`, `tag`, `hour`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `insight_queries` (
	`collection_id` integer NOT NULL,
	`tag` text NOT NULL,
	`day` integer NOT NULL,
	`words` text NOT NULL,
	`text` text NOT NULL,
	`searches` integer DEFAULT 0 NOT NULL,
	`visitors` integer DEFAULT 0 NOT NULL,
	`missed` integer DEFAULT 0 NOT NULL,
	`clicked` integer DEFAULT 0 NOT NULL,
	`places` integer DEFAULT 0 NOT NULL,
	`conversions` integer DEFAULT 0 NOT NULL,
	`refined` integer DEFAULT 0 NOT NULL,
	`chosen` integer DEFAULT 0 NOT NULL,
	`ms_sum` real DEFAULT 0 NOT NULL,
	`ms_most` real DEFAULT 0 NOT NULL,
	`last_at` integer NOT NULL,
	`last_missed_at` integer,
	`last_found_at` integer,
	PRIMARY KEY(`collection_id`, `tag`, `words`, `day`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `insight_ranks` (
	`collection_id` integer NOT NULL,
	`words` text NOT NULL,
	`record_id` text NOT NULL,
	`rank` integer NOT NULL,
	`day` integer NOT NULL,
	`shown` integer DEFAULT 0 NOT NULL,
	`opened` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`collection_id`, `words`, `record_id`, `rank`, `day`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `insight_records` (
	`collection_id` integer NOT NULL,
	`tag` text NOT NULL,
	`day` integer NOT NULL,
	`record_id` text NOT NULL,
	`shown` integer DEFAULT 0 NOT NULL,
	`clicked` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`collection_id`, `tag`, `record_id`, `day`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `insight_refined` (
	`collection_id` integer NOT NULL,
	`tag` text NOT NULL,
	`day` integer NOT NULL,
	`words` text NOT NULL,
	`next` text NOT NULL,
	`text` text NOT NULL,
	`next_text` text NOT NULL,
	`searches` integer DEFAULT 0 NOT NULL,
	`found` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`collection_id`, `tag`, `words`, `next`, `day`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `insight_seen` (
	`collection_id` integer NOT NULL,
	`tag` text NOT NULL,
	`day` integer NOT NULL,
	`words` text NOT NULL,
	`visitor` text NOT NULL,
	PRIMARY KEY(`collection_id`, `tag`, `day`, `words`, `visitor`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `insight_state` (
	`name` text PRIMARY KEY NOT NULL,
	`value` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `insight_times` (
	`collection_id` integer NOT NULL,
	`tag` text NOT NULL,
	`day` integer NOT NULL,
	`bucket` integer NOT NULL,
	`searches` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`collection_id`, `tag`, `day`, `bucket`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `search_log` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` integer NOT NULL,
	`collection_id` integer NOT NULL,
	`query_id` text NOT NULL,
	`session` text NOT NULL,
	`visitor` text NOT NULL,
	`q` text NOT NULL,
	`choices` text,
	`total` integer NOT NULL,
	`ms` real NOT NULL,
	`tags` text NOT NULL,
	`chosen` integer NOT NULL,
	`weight` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `search_log_by_session` ON `search_log` (`session`,`id`);--> statement-breakpoint
CREATE TABLE `settled_answers` (
	`query_id` text PRIMARY KEY NOT NULL,
	`search_id` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `settled_answers_by_search` ON `settled_answers` (`search_id`);--> statement-breakpoint
CREATE TABLE `settled_searches` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` integer NOT NULL,
	`last_at` integer NOT NULL,
	`collection_id` integer NOT NULL,
	`session` text NOT NULL,
	`visitor` text NOT NULL,
	`text` text NOT NULL,
	`words` text NOT NULL,
	`total` integer NOT NULL,
	`ms` real NOT NULL,
	`choices` text,
	`tags` text NOT NULL,
	`chosen` integer NOT NULL,
	`weight` integer NOT NULL,
	`clicks` integer DEFAULT 0 NOT NULL,
	`first_place` integer,
	`conversions` integer DEFAULT 0 NOT NULL,
	`refined_to` integer
);
--> statement-breakpoint
CREATE INDEX `settled_by_time` ON `settled_searches` (`collection_id`,`at`);--> statement-breakpoint
CREATE INDEX `settled_by_session` ON `settled_searches` (`session`,`id`);--> statement-breakpoint
CREATE INDEX `settled_by_visitor` ON `settled_searches` (`visitor`);--> statement-breakpoint
ALTER TABLE `visitor_events` ADD `event_id` text;--> statement-breakpoint
CREATE UNIQUE INDEX `visitor_events_event_id_unique` ON `visitor_events` (`event_id`);