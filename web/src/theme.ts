/** Paper and ink: the colours of the annotated ledger, light and dark. */
export const themes = {
  defaultTheme: 'system',
  themes: {
    light: {
      dark: false,
      colors: {
        background: '#FBFAF6',
        surface: '#FFFEFB',
        'on-background': '#22282B',
        'on-surface': '#22282B',
        primary: '#2B6F66',
        secondary: '#8A6428',
        error: '#A23B2E',
        warning: '#8A6A00',
        info: '#45618A',
      },
    },
    dark: {
      dark: true,
      colors: {
        background: '#171B1D',
        surface: '#1D2224',
        'on-background': '#E6E3DA',
        'on-surface': '#E6E3DA',
        primary: '#7CC4B8',
        secondary: '#D3A864',
        error: '#EE9A8C',
        warning: '#E0BC5A',
        info: '#9DB8DD',
      },
    },
  },
}
