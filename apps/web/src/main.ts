import '@fontsource/marcellus/latin-400.css';
import '@fontsource-variable/archivo/wdth.css';
import '@fontsource-variable/red-hat-mono/index.css';
import './app/tokens.css';
import './app/house.css';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './app/App.vue';
import { router } from './app/router.ts';
import { createTheme } from './app/theme.ts';

const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content ?? '';

createApp(App).use(createPinia()).use(router).use(createTheme(nonce)).mount('#app');
