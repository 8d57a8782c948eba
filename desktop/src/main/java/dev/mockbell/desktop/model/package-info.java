/** What views show and do, as properties and actions. In: the core; out: observable state on the interface thread. */
package dev.mockbell.desktop.model;
