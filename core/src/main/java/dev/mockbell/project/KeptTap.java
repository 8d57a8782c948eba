package dev.mockbell.project;

import dev.mockbell.tap.TapPlan;

/**
 * A tap or a forward proxy that a project keeps. Keeping starts nothing: it listens when somebody says so.
 *
 * @param id the short name, that of its file
 */
public record KeptTap(String id, TapPlan plan) {}
