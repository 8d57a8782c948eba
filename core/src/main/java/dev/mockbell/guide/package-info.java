/** The guide that comes with the program: pages of Markdown (CommonMark 0.31 with tables) become blocks that a window can show. */
package dev.mockbell.guide;
