package dev.mockbell.content;

import java.io.IOException;

/** More came than is taken. */
public final class TooLarge extends IOException {
    private static final long serialVersionUID = 1L;

    /** @param most how many bytes are taken */
    public TooLarge(long most) {
        super("The answer is larger than the limit of " + most + " bytes");
    }
}
