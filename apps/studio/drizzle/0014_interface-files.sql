CREATE TABLE `interface_files` (
	`interface_id` integer NOT NULL,
	`name` text NOT NULL,
	`bytes` blob NOT NULL,
	`added_at` text DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')) NOT NULL,
	PRIMARY KEY(`interface_id`, `name`),
	FOREIGN KEY (`interface_id`) REFERENCES `interfaces`(`id`) ON UPDATE no action ON DELETE cascade
);
