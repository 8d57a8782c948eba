package dev.mockbell.inside;

/** What bytes are. */
public enum Kind {
    EMPTY(false),
    XML(true),
    WEB_PAGE(true),
    JSON(true),
    CSV(true),
    TEXT(true),
    PNG(false),
    JPEG(false),
    GIF(false),
    BMP(false),
    PDF(false),
    GZIP(false),
    ZIP(false),
    BINARY(false);

    private final boolean text;

    Kind(boolean text) {
        this.text = text;
    }

    /** Whether it is read as characters. */
    public boolean isText() {
        return text;
    }

    /** Whether it is shown as a picture. */
    public boolean isPicture() {
        return this == PNG || this == JPEG || this == GIF || this == BMP;
    }

    /** Whether other bytes are packed in it. */
    public boolean isPacked() {
        return this == GZIP || this == ZIP;
    }

    /** The usual end of a file's name, with its full stop. */
    public String suffix() {
        return switch (this) {
            case XML -> ".xml";
            case WEB_PAGE -> ".html";
            case JSON -> ".json";
            case CSV -> ".csv";
            case TEXT -> ".txt";
            case PNG -> ".png";
            case JPEG -> ".jpg";
            case GIF -> ".gif";
            case BMP -> ".bmp";
            case PDF -> ".pdf";
            case GZIP -> ".gz";
            case ZIP -> ".zip";
            case EMPTY, BINARY -> ".bin";
        };
    }
}
