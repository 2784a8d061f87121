CREATE TABLE `interface_versions` (
	`interface_id` integer NOT NULL,
	`version` integer NOT NULL,
	`document` text NOT NULL,
	`note` text,
	`saved_at` text DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')) NOT NULL,
	PRIMARY KEY(`interface_id`, `version`)
);
--> statement-breakpoint
PRAGMA foreign_keys=OFF;--> statement-breakpoint
CREATE TABLE `__new_interfaces` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`slug` text NOT NULL,
	`live_version` integer DEFAULT 1 NOT NULL,
	`document` text NOT NULL,
	`created_at` text DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')) NOT NULL,
	`changed_at` text DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')) NOT NULL
);
--> statement-breakpoint
INSERT INTO `__new_interfaces`("slug", "document", "created_at", "changed_at") SELECT "slug", "document", "created_at", "changed_at" FROM `interfaces` ORDER BY "slug";--> statement-breakpoint
INSERT INTO `interface_versions`("interface_id", "version", "document", "saved_at") SELECT "id", 1, "document", "changed_at" FROM `__new_interfaces`;--> statement-breakpoint
DROP TABLE `interfaces`;--> statement-breakpoint
ALTER TABLE `__new_interfaces` RENAME TO `interfaces`;--> statement-breakpoint
PRAGMA foreign_keys=ON;--> statement-breakpoint
CREATE UNIQUE INDEX `interfaces_slug_unique` ON `interfaces` (`slug`);