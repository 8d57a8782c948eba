package dev.mockbell.desktop.model;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/** Whether the system that the window is on wants dark windows. Asks the system's own commands, so that it is work. */
final class SystemTheme {
    private static final long PATIENCE_SECONDS = 3;

    private SystemTheme() {}

    /** @param environment variables of the process */
    static boolean isDark(Map<String, String> environment) {
        String os = System.getProperty("os.name", "").toLowerCase(Locale.ROOT);
        if (os.contains("mac")) {
            return said(List.of("defaults", "read", "-g", "AppleInterfaceStyle"))
                    .contains("dark");
        }
        if (os.contains("win")) {
            return said(List.of(
                            "reg",
                            "query",
                            "HKCU\\Software\\Microsoft\\Windows\\CurrentVersion\\Themes\\Personalize",
                            "/v",
                            "AppsUseLightTheme"))
                    .contains("0x0");
        }
        String named = environment.getOrDefault("GTK_THEME", "").toLowerCase(Locale.ROOT);
        if (!named.isEmpty()) {
            return isDark(named);
        }
        String scheme = said(List.of("gsettings", "get", "org.gnome.desktop.interface", "color-scheme"));
        return scheme.contains("dark")
                || !scheme.contains("light")
                        && isDark(said(List.of("gsettings", "get", "org.gnome.desktop.interface", "gtk-theme")));
    }

    private static boolean isDark(String theme) {
        return theme.replaceAll("['\"\\s]", "").endsWith("dark");
    }

    /** What a command says, in small letters; nothing where there is no such command. */
    private static String said(List<String> command) {
        Process process = null;
        try {
            process = new ProcessBuilder(command)
                    .redirectError(ProcessBuilder.Redirect.DISCARD)
                    .start();
            process.getOutputStream().close();
            boolean done = process.waitFor(PATIENCE_SECONDS, TimeUnit.SECONDS);
            return done && process.exitValue() == 0
                    ? new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8)
                            .toLowerCase(Locale.ROOT)
                    : "";
        } catch (IOException none) {
            return "";
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return "";
        } finally {
            if (process != null) {
                process.destroyForcibly();
            }
        }
    }
}
