package dev.mockbell.app;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.LoggerContext;
import ch.qos.logback.classic.encoder.PatternLayoutEncoder;
import ch.qos.logback.classic.spi.Configurator;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.rolling.FixedWindowRollingPolicy;
import ch.qos.logback.core.rolling.RollingFileAppender;
import ch.qos.logback.core.rolling.SizeBasedTriggeringPolicy;
import ch.qos.logback.core.spi.ContextAwareBase;
import ch.qos.logback.core.util.FileSize;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;

/**
 * What the program has to say about itself goes to a file; the user's terminal is for results. In Java, since reading it from a file of XML
 * takes a small command a tenth of its time. Tests have files of their own.
 */
public final class LogFile extends ContextAwareBase implements Configurator {
    /** Logins in addresses and the values of credential headers are masked, in messages and in traces. */
    private static final String PATTERN = "%replace(%replace(%d{ISO8601} %-5level [%thread] %logger{30} - %msg%n%ex)"
            + "{'(?i)(://)[^/@\\\\s]*@','$1•••@'}){'(?i)((?:authorization|cookie|password|token|secret|api-key)[\\\\w-]*"
            + "\\\\s*[:=]\\\\s*)(?:(?:basic|bearer|digest) )?[^\\\\s,;]+','$1•••'}%nopex";

    private static final long MOST_BYTES = 5L << 20;

    @Override
    public ExecutionStatus configure(LoggerContext logging) {
        if (LogFile.class.getResource("/logback-test.xml") != null) {
            return ExecutionStatus.INVOKE_NEXT_IF_ANY;
        }
        into(
                logging,
                System.getProperty(
                        "mockbell.log",
                        Path.of(System.getProperty("java.io.tmpdir"), "mockbell.log")
                                .toString()));
        return ExecutionStatus.DO_NOT_INVOKE_NEXT_IF_ANY;
    }

    /** Has warnings and what is worse written to a file. */
    static void into(LoggerContext logging, String file) {
        RollingFileAppender<ILoggingEvent> appender = new RollingFileAppender<>();
        appender.setContext(logging);
        appender.setName("FILE");
        appender.setFile(file);
        FixedWindowRollingPolicy older = new FixedWindowRollingPolicy();
        older.setContext(logging);
        older.setParent(appender);
        older.setFileNamePattern(file + ".%i");
        older.setMinIndex(1);
        older.setMaxIndex(2);
        older.start();
        SizeBasedTriggeringPolicy<ILoggingEvent> size = new SizeBasedTriggeringPolicy<>();
        size.setContext(logging);
        size.setMaxFileSize(new FileSize(MOST_BYTES));
        size.start();
        PatternLayoutEncoder encoder = new PatternLayoutEncoder();
        encoder.setContext(logging);
        encoder.setCharset(StandardCharsets.UTF_8);
        encoder.setPattern(PATTERN);
        encoder.start();
        appender.setRollingPolicy(older);
        appender.setTriggeringPolicy(size);
        appender.setEncoder(encoder);
        appender.start();
        Logger root = logging.getLogger(org.slf4j.Logger.ROOT_LOGGER_NAME);
        root.setLevel(Level.WARN);
        root.addAppender(appender);
    }
}
