package dev.mockbell.content;

import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;

/** Two contents, one behind the other. */
record Joined(Content first, Content second) implements Content {
    @Override
    public long size() {
        return first.size() + second.size();
    }

    @Override
    public InputStream open(long from) throws IOException {
        Contents.check(from, size());
        return from >= first.size()
                ? second.open(from - first.size())
                : new SequenceInputStream(first.open(from), second.open());
    }
}
