CREATE TABLE `visitor_trial_clicks` (
	`trial_id` integer NOT NULL,
	`visit` text NOT NULL,
	`words` text NOT NULL,
	`record_id` text NOT NULL,
	`side` integer NOT NULL,
	PRIMARY KEY(`trial_id`, `visit`, `words`, `record_id`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `visitor_trials` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`collection_id` integer NOT NULL,
	`started_at` text NOT NULL,
	`ended_at` text,
	`ended` text,
	`live_version` integer NOT NULL,
	`tuning` text NOT NULL,
	`seed` text NOT NULL,
	`visits` integer DEFAULT 0 NOT NULL,
	`wins_of_live` integer DEFAULT 0 NOT NULL,
	`wins_of_draft` integer DEFAULT 0 NOT NULL,
	`ties` integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE INDEX `visitor_trials_by_collection` ON `visitor_trials` (`collection_id`,`id`);--> statement-breakpoint
CREATE INDEX `insight_ranks_opened` ON `insight_ranks` (`collection_id`,`record_id`) WHERE opened > 0;