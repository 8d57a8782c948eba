/** What several stations show alike: marks, numbers, boxes laid over the station. */
package dev.mockbell.desktop.view.shared;
