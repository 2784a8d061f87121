CREATE TABLE `past_queries` (
	`collection_id` integer NOT NULL,
	`scope` text NOT NULL,
	`folded` text NOT NULL,
	`text` text NOT NULL,
	`visits` integer NOT NULL,
	`last_session` text,
	`last_at` text NOT NULL,
	PRIMARY KEY(`collection_id`, `scope`, `folded`)
);
